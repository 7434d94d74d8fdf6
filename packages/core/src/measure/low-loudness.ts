import { kWeighting, OFFSET_DB } from './loudness.js';

/** Gain of K-weighting's high-pass above all of it at 48 kHz, where its numerator is 1, −2, 1. */
const passGain = ([a1, a2]: readonly [number, number]) => 4 / (1 - a1 + a2);
const PASS_GAIN = passGain(kWeighting(48000)[1].a);

/**
 * Mean square of low audio in mono, weighted as in ITU-R BS.1770 as far as that reaches below 200 Hz: its high-pass from the
 * analogue prototype. The shelf is left out: it lifts 200 Hz by 0.1 dB. For lows at a rate too low for the whole
 * weighting, of 1.5 kHz or more.
 *
 * @returns the weighted samples squared, both sides of a stereo pair that is this mono signal together.
 */
export function weightedLows(lows: ArrayLike<number>, rateHz: number, loop: boolean): Float64Array {
  const { a } = kWeighting(rateHz)[1];
  const [a1, a2] = a;
  const gain = PASS_GAIN / passGain(a);
  const out = new Float64Array(lows.length);
  let s1 = 0;
  let s2 = 0;
  for (let round = loop ? 0 : 1; round < 2; round++)
    for (let i = 0; i < lows.length; i++) {
      const x = gain * lows[i];
      const y = x + s1;
      s1 = -2 * x - a1 * y + s2;
      s2 = x - a2 * y;
      if (round === 1) out[i] = 2 * y * y;
    }
  return out;
}

/** Loudness of a stretch of weighted lows, LUFS: ungated, as for a piece that does not pause. −Infinity for silence. */
export function lowLoudness(weighted: Float64Array, from = 0, to = weighted.length): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += weighted[i];
  return OFFSET_DB + 10 * Math.log10(sum / Math.max(1, to - from));
}
