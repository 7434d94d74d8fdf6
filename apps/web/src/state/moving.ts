import {
  endsOf,
  MACRO_IDS,
  movedTargets,
  movingIds,
  toPosition,
  type NumberNode,
  type SoundDocument,
} from '@abyssal/core';
import { audio } from '../audio/audio-host';

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
    const reach = link.reachPct / 100;
    const ends = link.way === 'both ways' ? [-reach, reach] : [link.fromPct / 100, reach];
    low += Math.min(0, ...ends);
    high += Math.max(0, ...ends);
  }
  return { links, lane: lane !== undefined, range: low < high ? [low, high] : null };
}

export { endsOf };

let order: { readonly of: SoundDocument; readonly places: ReadonlyMap<string, number> } | null = null;

/** The place of what is moved, or of what moves, in the memory that the audio thread writes; −1 for none. */
export function movedPlace(document: SoundDocument, id: string): number {
  if (order?.of !== document) {
    const ids = [...movedTargets(document), ...movingIds(document)];
    order = { of: document, places: new Map(ids.map((each, i) => [each, i])) };
  }
  return order.places.get(id) ?? -1;
}

/** Where something stands now while the loop plays, 0 to 1; null where it is not moved. */
export function standsNow(document: SoundDocument, id: string): number | null {
  const place = movedPlace(document, id);
  const at = place < 0 ? NaN : audio.shared.moved[place];
  return Number.isFinite(at) ? at : null;
}
