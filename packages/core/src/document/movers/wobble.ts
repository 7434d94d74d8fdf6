import { choice, list, number, object, type Infer } from '../schema/schema.js';
import { log } from '../schema/shape-parts.js';
import { moverFields, type MoverKindSpec } from './mover-kind.js';
import { MOST_NODES } from '../schema/bounds.js';

const nodeShape = object({
  x: number('Position', '', 0, 1, 0, 'Position in the cycle.', { step: 0.005 }),
  y: number('Value', '', 0, 1, 0, 'Value at this position.', { step: 0.005 }),
  bend: number('Bend', '', -1, 1, 0, 'Bend of the segment that follows; positive starts slowly.', {
    step: 0.01,
  }),
});

const shape = object({
  ...moverFields('wobble', 'wobble-1', 'Wobble 1'),
  rateIn: choice(['beats', 'hertz'], 'beats'),
  rateBeats: number(
    'Rate',
    'beats',
    1 / 24,
    32,
    1,
    'Length of a cycle: 1/4 is one beat; T is a triplet, a dot is dotted.',
    log,
  ),
  rateHz: number('Rate', 'Hz', 0.02, 40, 4, 'Cycles per second.', log),
  restart: choice(['note', 'free'], 'note'),
  startDeg: number('Start phase', '°', 0, 360, 0, 'Where in the cycle it starts.', { step: 1 }),
  smoothMs: number('Smooth', 'ms', 0, 200, 3, 'Rounds off sharp corners.', { step: 0.5 }),
  nodes: list(nodeShape, 2, MOST_NODES),
});

/** A cycle drawn by hand that goes round at a rate. */
export const wobble = {
  shape,
  start: () => ({
    nodes: [
      { x: 0, y: 0, bend: 0 },
      { x: 0.5, y: 1, bend: 0 },
      { x: 1, y: 0, bend: 0 },
    ],
  }),
  check({ nodes }: Infer<typeof shape>, problem) {
    if (nodes[0].x !== 0 || nodes[nodes.length - 1].x !== 1) problem('nodes', 'must run from x 0 to x 1');
    if (nodes.some((node, k) => k > 0 && node.x < nodes[k - 1].x)) problem('nodes', 'must rise in x');
  },
} satisfies MoverKindSpec;

export type ShapeNode = Infer<typeof nodeShape>;
