import type { Targets } from '../../document/index.js';

/**
 * A figure against its target; `unknown` is neither good nor bad: it cannot be told, and the figure has the
 * reason.
 */
export type Verdict = 'holds' | 'watch' | 'falls short' | 'unknown';

/** Holds from a bound up, is watched from another up. */
export function atLeast(value: number | null, holds: number, watch: number): Verdict {
  if (value === null) return 'unknown';
  return value >= holds ? 'holds' : value >= watch ? 'watch' : 'falls short';
}

/** Holds up to a bound, is watched up to another. */
export const atMost = (value: number | null, holds: number, watch: number): Verdict =>
  value === null ? 'unknown' : atLeast(-value, -holds, -watch);

/** The worse of two verdicts; what cannot be told does not count where the other can. */
export function worse(a: Verdict, b: Verdict): Verdict {
  const order: Verdict[] = ['unknown', 'holds', 'watch', 'falls short'];
  return order[Math.max(order.indexOf(a), order.indexOf(b))];
}

/** Sum gain holds when it reaches its target and comes within a margin of the best that a turn could give. */
export function judgeLock(sumGainDb: number | null, bestDb: number | null, t: Targets): Verdict {
  const verdict = atLeast(sumGainDb, t.sumGainDb, t.sumGainWatchDb);
  const nearBest = sumGainDb === null || bestDb === null || bestDb - sumGainDb <= t.fromBestDb;
  return verdict === 'holds' && !nearBest ? 'watch' : verdict;
}
