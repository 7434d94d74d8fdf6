import { endsOf, MACRO_IDS, toPosition, type NumberNode, type SoundDocument } from '@abyssal/core';

/** What links and lanes make of a number: the links that reach it, its lane, and the stretch it is carried over. */
export interface Carried {
  readonly links: SoundDocument['links'];
  readonly lane: boolean;
  /** Positions of its range, 0 to 1. */
  readonly range: readonly [number, number] | null;
}

/** Whether a mover or macro is there and on. */
const runs = ({ movers }: Pick<SoundDocument, 'movers'>, id: string) =>
  MACRO_IDS.includes(id) || movers.some((mover) => mover.id === id && mover.on);

/** How far links and a lane may carry a number that stands at a value. */
export function carriedBy(
  document: Pick<SoundDocument, 'links' | 'movers' | 'lanes'>,
  target: string,
  row: NumberNode,
  value: number,
): Carried {
  const links = document.links.filter((link) => link.target === target);
  const lane = document.lanes.find((each) => each.on && each.target === target);
  const at = toPosition(row, value);
  let low = lane ? Math.min(...lane.points.map((point) => point.value)) : at;
  let high = lane ? Math.max(...lane.points.map((point) => point.value)) : at;
  for (const link of links) {
    if (!link.on || !runs(document, link.mover)) continue;
    const ends = endsOf(link);
    low += Math.min(0, ...ends);
    high += Math.max(0, ...ends);
  }
  return { links, lane: lane !== undefined, range: low < high ? [low, high] : null };
}
