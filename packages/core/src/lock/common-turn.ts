import { sumGainAtTurn, type Lock } from './measure-lock.js';

/** An angle in degrees in (−180, 180]. */
export function wrapDegrees(degrees: number): number {
  const turned = (((degrees + 180) % 360) + 360) % 360;
  return turned === 0 ? 180 : turned - 180;
}

/**
 * The one turn in whole degrees that gives the worst of several notes the most sum gain, and that gain. Notes without a common phase
 * do not count; null when none is left.
 */
export function bestCommonTurn(locks: readonly Lock[]): { turnDeg: number; worstSumGainDb: number } | null {
  const phased = locks.filter(({ bearingDeg }) => bearingDeg !== null);
  if (phased.length === 0) return null;
  let best = { turnDeg: 0, worstSumGainDb: -Infinity };
  for (let step = 0; step < 360; step++) {
    const turnDeg = wrapDegrees(step);
    const worstSumGainDb = Math.min(...phased.map((lock) => sumGainAtTurn(lock, turnDeg)));
    if (worstSumGainDb > best.worstSumGainDb + 1e-9) best = { turnDeg, worstSumGainDb };
  }
  return best;
}
