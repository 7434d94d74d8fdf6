/** K-weighting's high-pass: its frequency, Q, and its gain above all of that at 48 kHz, where its numerator is 1, −2, 1. */
const HIGH_PASS_HZ = 38.1354709;
const Q = 0.50032704;
const PASS_GAIN = 4 / (1 + 1.99004745483398 + 0.99007225036621);
const OFFSET_DB = -0.691;

/**
 * Mean square of low audio in mono, weighted as in ITU-R BS.1770 as far as that reaches below 200 Hz: its high-pass from the
 * analogue prototype. The shelf is left out: it lifts 200 Hz by 0.1 dB. For lows at a rate too low for the whole
 * weighting, of 1.5 kHz or more.
 *
 * @returns the weighted samples squared, both sides of a stereo pair that is this mono signal together.
 */
export function weightedLows(lows: ArrayLike<number>, rateHz: number, loop: boolean): Float64Array {
  const k = Math.tan((Math.PI * HIGH_PASS_HZ) / rateHz);
  const a0 = 1 + k / Q + k * k;
  const a1 = (2 * (k * k - 1)) / a0;
  const a2 = (1 - k / Q + k * k) / a0;
  const gain = (PASS_GAIN * (1 - a1 + a2)) / 4;
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
