import { isLock, withoutPhase } from '../figures/index.js';
import { lockWindow, stretchOf, sumGainDb } from '../lock/index.js';
import type { LineLows } from './measured-line.js';

/** A shift of the whole bass in ms, positive for later, and the worst sum gain that it gives. */
export interface Nudge {
  readonly nudgeMs: number;
  readonly worstSumGainDb: number;
}

/**
 * The one shift of the bass, within half a period of the longest to either side, that gives the worst meeting
 * of the line the most sum gain; windows stay
 * where they are, and two without a common phase are left out. `longestS` is the longest period of the line
 * in seconds. Null where no meeting has a lock.
 */
export function bestCommonNudge({ locks, kick, bass }: LineLows, longestS: number): Nudge | null {
  const n = bass.re.length;
  const meetings = locks
    .flatMap((note) => note.meetings.filter(({ lock }) => isLock(lock) && !withoutPhase(lock)))
    .map(({ from, to }) => {
      const window = lockWindow(stretchOf(kick, from, to), stretchOf(bass, from, to));
      const inside: number[] = [];
      let energy = 0;
      window.forEach((is, i) => {
        if (is === 0) return;
        const at = (((from + i) % n) + n) % n;
        inside.push(at);
        energy += kick.re[at] ** 2 + kick.im[at] ** 2;
      });
      return { inside, energy };
    });
  if (meetings.length === 0) return null;
  const most = Math.floor((longestS / 2) * kick.rateHz);
  let best: Nudge | null = null;
  for (let step = 0; step <= 2 * most; step++) {
    const shift = step % 2 === 0 ? -step / 2 : (step + 1) / 2;
    const worstSumGainDb = Math.min(
      ...meetings.map(({ inside, energy }) => {
        let e = 0;
        let re = 0;
        for (const to of inside) {
          const at = (to - shift + n) % n;
          e += bass.re[at] ** 2 + bass.im[at] ** 2;
          re += bass.re[at] * kick.re[to] + bass.im[at] * kick.im[to];
        }
        return sumGainDb(energy, e, re);
      }),
    );
    if (!best || worstSumGainDb > best.worstSumGainDb + 1e-9)
      best = { nudgeMs: (1000 * shift) / kick.rateHz, worstSumGainDb };
  }
  return best;
}
