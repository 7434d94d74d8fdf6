import type { SoundDocument } from '../document/index.js';
import { meetsKick, noteStretches } from '../figures/index.js';
import { lockWindow, lowPeak, sumGainDb, type LowBand } from '../lock/index.js';

/** A shift of the whole bass in ms, positive for later, and the worst sum gain that it gives. */
export interface Nudge { readonly nudgeMs: number; readonly worstSumGainDb: number }

/**
 * The one shift of the bass, within half a period of the lowest note to either side, that gives the worst note of the line the most sum gain; windows stay
 * where they are. Null where no note meets the kick.
 */
export function bestCommonNudge(document: SoundDocument, kick: LowBand, bass: LowBand): Nudge | null {
  const n = bass.re.length;
  const kickPeak = lowPeak(kick);
  const notes = noteStretches(document, n, kick.rateHz).filter((stretch) => meetsKick(kick, kickPeak, stretch)).map((stretch) => {
    const window = lockWindow(kick, bass, stretch.from, stretch.to);
    const inside: number[] = [];
    let energy = 0;
    for (let i = stretch.from; i < stretch.to; i++) {
      if (window[i - stretch.from] === 0) continue;
      inside.push(i);
      energy += kick.re[i] ** 2 + kick.im[i] ** 2;
    }
    return { inside, energy, periodS: stretch.periodS };
  });
  if (notes.length === 0) return null;
  const most = Math.floor((Math.max(...notes.map(({ periodS }) => periodS)) / 2) * kick.rateHz);
  let best: Nudge | null = null;
  for (let step = 0; step <= 2 * most; step++) {
    const shift = step % 2 === 0 ? -step / 2 : (step + 1) / 2;
    const worstSumGainDb = Math.min(...notes.map(({ inside, energy }) => {
      let e = 0;
      let re = 0;
      for (const to of inside) {
        const at = (to - shift + n) % n;
        e += bass.re[at] ** 2 + bass.im[at] ** 2;
        re += bass.re[at] * kick.re[to] + bass.im[at] * kick.im[to];
      }
      return sumGainDb(energy, e, re);
    }));
    if (!best || worstSumGainDb > best.worstSumGainDb + 1e-9) best = { nudgeMs: (1000 * shift) / kick.rateHz, worstSumGainDb };
  }
  return best;
}
