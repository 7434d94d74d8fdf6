import { MOST_NODES, shapeAt, type ShapeNode } from '@abyssal/core';

const clamp = (x: number) => Math.min(1, Math.max(0, x));
const round = (x: number) => Math.round(x * 1000) / 1000;

/**
 * Moves a node; the first and the last stay at the ends, the others between their neighbours.
 */
export function moveNode(nodes: readonly ShapeNode[], index: number, x: number, y: number): ShapeNode[] {
  const last = nodes.length - 1;
  const at =
    index === 0
      ? 0
      : index === last
        ? 1
        : round(Math.min(nodes[index + 1].x, Math.max(nodes[index - 1].x, x)));
  const value = round(clamp(y));
  return nodes.map((node, i) => (i === index ? { ...node, x: at, y: value } : node));
}

/** Adds a node on the line at x; null where no more are allowed. Both halves keep the bend of the whole. */
export function addNode(
  nodes: readonly ShapeNode[],
  x: number,
  y = shapeAt(nodes, x),
): { nodes: ShapeNode[]; index: number } | null {
  if (nodes.length >= MOST_NODES || x <= 0 || x >= 1) return null;
  const index = nodes.findIndex((node) => node.x > x);
  const next = [...nodes];
  next.splice(index, 0, { x: round(x), y: round(clamp(y)), bend: nodes[index - 1].bend });
  return { nodes: next, index };
}

/** Takes a node away; the two ends stay. */
export function removeNode(nodes: readonly ShapeNode[], index: number): ShapeNode[] {
  return index === 0 || index === nodes.length - 1 ? [...nodes] : nodes.filter((_node, i) => i !== index);
}

export function bendSegment(nodes: readonly ShapeNode[], index: number, bend: number): ShapeNode[] {
  return nodes.map((node, i) =>
    i === index ? { ...node, bend: round(Math.min(1, Math.max(-1, bend))) } : node,
  );
}

/** Ready shapes, to begin from. */
export const READY_SHAPES: Readonly<Record<string, readonly ShapeNode[]>> = {
  hill: [
    { x: 0, y: 0, bend: 0 },
    { x: 0.5, y: 1, bend: 0 },
    { x: 1, y: 0, bend: 0 },
  ],
  swell: [
    { x: 0, y: 0, bend: 0.4 },
    { x: 0.98, y: 1, bend: 0 },
    { x: 1, y: 0, bend: 0 },
  ],
  fall: [
    { x: 0, y: 1, bend: -0.4 },
    { x: 1, y: 0, bend: 0 },
  ],
  gate: [
    { x: 0, y: 1, bend: 0 },
    { x: 0.5, y: 1, bend: 0 },
    { x: 0.5, y: 0, bend: 0 },
    { x: 1, y: 0, bend: 0 },
  ],
};

/** The nearest place of a grid of so many to a cycle; the place itself where there is no grid. */
export const onGrid = (x: number, cells: number) => (cells === 0 ? x : Math.round(x * cells) / cells);

/**
 * A cycle as steps, one a cell, with one of them at another value: the others stand where the shape stood in
 * the middle of their cell.
 */
export function drawStep(nodes: readonly ShapeNode[], cells: number, cell: number, y: number): ShapeNode[] {
  return Array.from({ length: cells }, (_, k) => {
    const value = round(clamp(k === cell ? y : shapeAt(nodes, (k + 0.5) / cells)));
    return [
      { x: round(k / cells), y: value, bend: 0 },
      { x: k === cells - 1 ? 1 : round((k + 1) / cells), y: value, bend: 0 },
    ];
  }).flat();
}
