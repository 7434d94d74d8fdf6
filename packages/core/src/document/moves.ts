import { MOST_POINTS } from '../schema/bounds.js';
import type { LanePoint } from './shape.js';

/** A number as it was moved by hand: where in the loop, in ticks, and to which place of its range, 0 to 1. */
export interface Move {
  readonly tick: number;
  readonly value: number;
}

/** How what was recorded is joined with the lane that is there. */
export type RecordWay = 'replace' | 'add to';

/** The most by which a recorded lane may differ from the move, as a share of the range. */
const MOST_OFF = 0.005;
/** By how little it differs where there is room: what it plays then nulls against the move. */
const LEAST_OFF = 0.00002;

const point = ({ tick, value }: Move): LanePoint => ({ tick, value, bend: 0, hold: true });

function thinned(moves: readonly Move[], off: number): LanePoint[] {
  const kept: LanePoint[] = [];
  moves.forEach((move, i) => {
    const before = kept.at(-1);
    const last = i === moves.length - 1;
    if (!before || Math.abs(move.value - before.value) > (last ? 0 : off)) kept.push(point(move));
  });
  return kept;
}

/**
 * The points of a lane that plays moves by hand as they were heard, a step each; of moves that change next to
 * nothing the first stands for all. Never further from the moves than 0.5 % of the range.
 */
export function pointsOf(moves: readonly Move[]): LanePoint[] {
  // Of several at one place the last is what was heard.
  const heard = moves.filter((move, i) => moves[i + 1]?.tick !== move.tick);
  let off = LEAST_OFF;
  let points = thinned(heard, off);
  while (points.length > MOST_POINTS && off < MOST_OFF) {
    off = Math.min(MOST_OFF, 2 * off);
    points = thinned(heard, off);
  }
  return points.slice(0, MOST_POINTS);
}

/**
 * The lane after a round of recording. `replace` drops all that was there; `add to` keeps it outside of what was
 * moved, and comes back to it where the hand let go, at `until`. `stood` is where the number stood before the
 * first move.
 */
export function recorded(
  before: readonly LanePoint[],
  moves: readonly Move[],
  way: RecordWay,
  { until, stood }: { readonly until: number; readonly stood: number },
): LanePoint[] {
  const points = pointsOf(moves);
  const [first] = points;
  if (!first) return [...before];
  if (way === 'replace' || before.length === 0) {
    // Up to the first move, and round the loop's end, it stands where it stood.
    return first.tick > 0 ? [point({ tick: 0, value: stood }), ...points] : points;
  }
  const earlier = before.filter(({ tick }) => tick < first.tick);
  const later = before.filter(({ tick }) => tick >= until);
  const at = [...before].reverse().find(({ tick }) => tick < until);
  const back = at && !later.some(({ tick }) => tick === until) ? [{ ...at, tick: until }] : [];
  return [...earlier, ...points.filter(({ tick }) => tick < until), ...back, ...later].slice(0, MOST_POINTS);
}
