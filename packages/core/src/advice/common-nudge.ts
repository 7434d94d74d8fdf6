import type { SoundDocument } from '../document/index.js';
import { meetsKick, noteStretches } from '../figures/index.js';
import { lowPeak, sumGainDb, type LowBand } from '../lock/index.js';

const WITHIN = 10 ** (-30 / 20);

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
    const inside: number[] = [];
    let kickTop = 0;
    let bassTop = 0;
    for (let i = stretch.from; i < stretch.to; i++) {
      kickTop = Math.max(kickTop, Math.hypot(kick.re[i], kick.im[i]));
      bassTop = Math.max(bassTop, Math.hypot(bass.re[i], bass.im[i]));
    }
    let energy = 0;
    for (let i = stretch.from; i < stretch.to; i++) {
      const k = Math.hypot(kick.re[i], kick.im[i]);
      if (k < WITHIN * kickTop || Math.hypot(bass.re[i], bass.im[i]) < WITHIN * bassTop) continue;
      inside.push(i);
      energy += k * k;
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
