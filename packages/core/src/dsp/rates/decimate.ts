import { kaiserLowPass } from '../transforms/windows.js';

/** What is kept of the lower rate. */
const KEPT = 0.31;
const cache = new Map<string, Float64Array>();

/**
 * Taps of a stage that divides the rate by `factor`, the first of stages that divide it by `whole`: flat to
 * what the last stage keeps, and
 * 100 dB down from where its own output would fold into that.
 */
function tapsFor(factor: number, whole: number): Float64Array {
  const key = `${factor} ${whole}`;
  let taps = cache.get(key);
  if (!taps) {
    const pass = KEPT / whole;
    const stop = 1 / factor - pass;
    cache.set(key, (taps = kaiserLowPass((pass + stop) / 2, stop - pass, 100)));
  }
  return taps;
}

/** Sum of symmetric taps over a signal from a place on: pairs that share a tap are added first. */
function weigh(taps: Float64Array, signal: Float64Array, from: number): number {
  const last = from + taps.length - 1;
  const half = (taps.length - 1) >> 1;
  let sum = taps[half] * signal[from + half];
  for (let k = 0; k < half; k++) sum += taps[k] * (signal[from + k] + signal[last - k]);
  return sum;
}

function stage(signal: ArrayLike<number>, factor: number, whole: number, loop: boolean): Float64Array {
  const taps = tapsFor(factor, whole);
  const middle = (taps.length - 1) / 2;
  const n = signal.length;
  // The signal with its ends, in one kind of array: the inner loop then has nothing to decide.
  const padded = new Float64Array(n + 2 * middle + factor);
  padded.set(signal, middle);
  if (loop) {
    for (let i = 0; i < middle; i++) padded[i] = signal[(((i - middle) % n) + n) % n];
    for (let i = middle + n; i < padded.length; i++) padded[i] = signal[(i - middle) % n];
  }
  const out = new Float64Array(Math.ceil(n / factor));
  for (let i = 0; i < out.length; i++) out[i] = weigh(taps, padded, i * factor);
  return out;
}

/**
 * Keeps every `factor`-th frame after linear-phase low-passes without delay: flat to 0.31 of the new rate.
 * Frames beyond the ends count as
 * 0, or as the other end of a loop. Factors of 4 are taken one after the other: a short filter does for all
 * but the last stage. Where
 * the factor does not divide a loop's length the seam is out by less than one frame of the new rate.
 */
export function decimate(signal: ArrayLike<number>, factor: number, loop = false): Float64Array {
  if (factor === 1) return Float64Array.from(signal);
  return factor % 4 === 0 && factor > 4
    ? decimate(stage(signal, 4, factor, loop), factor / 4, loop)
    : stage(signal, factor, factor, loop);
}
