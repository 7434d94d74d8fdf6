import { endsOf, MACRO_IDS, toPosition, type Link, type NumberNode, type SoundDocument } from '@abyssal/core';
import { useShallow } from 'zustand/react/shallow';
import { useSound } from './document-store';

/** What links and lanes make of a number: the links that reach it, its lane, and the stretch it is carried over. */
export interface Carried {
  readonly links: readonly Link[];
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

/**
 * The same of the open sound, for a row of it; null for what cannot be moved. It changes only where this number is
 * carried otherwise: every row of the page looks at every edit.
 */
export function useCarried(target: string, row: NumberNode, value: number): Carried | null {
  const [lane, low, high, ...links] = useSound(
    useShallow((sound): [boolean, number | null, number | null, ...Link[]] => {
      if (!row.movable) return [false, null, null];
      const carried = carriedBy(sound, target, row, value);
      return [carried.lane, ...(carried.range ?? ([null, null] as const)), ...carried.links];
    }),
  );
  return row.movable ? { links, lane, range: low === null || high === null ? null : [low, high] } : null;
}
