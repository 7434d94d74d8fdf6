import { MACRO_IDS } from '../kinds/movers/index.js';
import { resolveTarget, type LinkTarget } from './parameters.js';
import type { SoundDocument } from './shape.js';
import { sourceName, targetLabel } from './targets.js';
import { unitById } from './units.js';

/** What moves: the movers of a document in their order, then its macros. */
export const sourceCount = ({ movers }: Pick<SoundDocument, 'movers'>) => movers.length + MACRO_IDS.length;

/** The place of a mover or macro among all that moves; −1 where there is none of this id. */
export function sourceIndex({ movers }: Pick<SoundDocument, 'movers'>, id: string): number {
  const macro = MACRO_IDS.indexOf(id);
  return macro >= 0 ? movers.length + macro : movers.findIndex((mover) => mover.id === id);
}

/**
 * A step in which movers are run: the mover or macro with this place is moved on, or the reach of the link with
 * this place is found.
 */
export interface NetStep {
  readonly kind: 'source' | 'reach';
  readonly index: number;
}

interface Node extends NetStep {
  /** Places of the links that reach it. */
  readonly links: number[];
}

/** What of a document links join. */
export type Linked = Pick<SoundDocument, 'layers' | 'movers' | 'links' | 'grit'>;

/**
 * Whose numbers a target is among: a layer's, by its id, or the mix's (null); undefined for what moves itself. A unit's
 * are those of the layer in whose chain it stands.
 */
export function bankOf(document: Linked, { part, id }: LinkTarget): string | null | undefined {
  switch (part) {
    case 'layer':
      return id;
    case 'band':
    case 'mix':
      return null;
    case 'unit': {
      const place = unitById(document, id!)!.place;
      return place.in === 'layer' ? place.id : null;
    }
    default:
      return undefined;
  }
}

/** What reaches movers, macros and links, by the node that it reaches. */
function nodesOf(document: Linked): Map<string, Node> {
  const nodes = new Map<string, Node>();
  document.links.forEach((link, index) => {
    if (!link.on) return;
    const target = resolveTarget(document, link.target);
    if (!target || bankOf(document, target) !== undefined) return;
    const kind = target.part === 'link' ? 'reach' : 'source';
    const at =
      kind === 'reach'
        ? document.links.findIndex(({ id }) => id === target.id)
        : sourceIndex(document, target.id!);
    const key = `${kind} ${at}`;
    if (!nodes.has(key)) nodes.set(key, { kind, index: at, links: [] });
    nodes.get(key)!.links.push(index);
  });
  return nodes;
}

/** What a link needs before it can carry: its mover, and its reach where that is moved. */
const needsOf = (document: Linked, link: number): NetStep[] => [
  { kind: 'reach', index: link },
  { kind: 'source', index: sourceIndex(document, document.links[link].mover) },
];

/**
 * The order in which all that some links need is run, what they depend on first. Reaches that nothing moves
 * have no step. Of a circle one link counts as not there; `validate` refuses circles.
 */
export function netOf(document: Linked, links: readonly number[]): NetStep[] {
  const nodes = nodesOf(document);
  const steps: NetStep[] = [];
  const seen = new Set<string>();
  const visit = (step: NetStep) => {
    const key = `${step.kind} ${step.index}`;
    if (step.index < 0 || seen.has(key)) return;
    seen.add(key);
    const node = nodes.get(key);
    for (const link of node?.links ?? []) needsOf(document, link).forEach(visit);
    if (step.kind === 'source' || node) steps.push({ kind: step.kind, index: step.index });
  };
  for (const link of links) needsOf(document, link).forEach(visit);
  return steps;
}

/**
 * Links that go round in a circle, as a sentence that names what moves what; null where there is none.
 */
export function circleIn(document: Linked & Pick<SoundDocument, 'macros'>): string | null {
  const nodes = nodesOf(document);
  const done = new Set<string>();
  const way: { key: string; link: number }[] = [];
  const visit = (step: NetStep, by: number): string | null => {
    const key = `${step.kind} ${step.index}`;
    const from = way.findIndex((each) => each.key === key);
    if (from >= 0) {
      const clauses = [...way.slice(from + 1).map((each) => each.link), by].reverse().map((link) => {
        const { mover, target } = document.links[link];
        return `${sourceName(document, mover) ?? mover} moves ${targetLabel(document, target) ?? target}`;
      });
      return [...new Set(clauses)].join(' and ');
    }
    if (done.has(key)) return null;
    way.push({ key, link: by });
    for (const link of nodes.get(key)?.links ?? [])
      for (const need of needsOf(document, link)) {
        const found = visit(need, link);
        if (found) return found;
      }
    way.pop();
    done.add(key);
    return null;
  };
  for (const { kind, index } of nodes.values()) {
    const found = visit({ kind, index }, -1);
    if (found) return found;
  }
  return null;
}

/** The places of the links of a document that reach a layer (by its id), or the mix (null). */
export function linksInto(document: Linked, layerId: string | null): number[] {
  return document.links.flatMap((link, index) => {
    const target = link.on ? resolveTarget(document, link.target) : null;
    return target && bankOf(document, target) === layerId ? [index] : [];
  });
}
