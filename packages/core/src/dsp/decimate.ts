import { kaiserLowPass } from './windows.js';

/** Taps that keep what lies below 0.31 of the lower rate and hold aliases 100 dB under; shared by every factor. */
const cache = new Map<number, Float64Array>();

function tapsFor(factor: number): Float64Array {
  let taps = cache.get(factor);
  if (!taps) cache.set(factor, (taps = kaiserLowPass(0.5 / factor, 0.38 / factor, 100)));
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

/**
 * Keeps every `factor`-th frame after a linear-phase low-pass without delay: flat to 0.31 of the new rate. Frames beyond
 * the ends count as 0, or as the other end of a loop.
 */
export function decimate(signal: ArrayLike<number>, factor: number, loop = false): Float64Array {
  if (factor === 1) return Float64Array.from(signal);
  const taps = tapsFor(factor);
  const middle = (taps.length - 1) / 2;
  const n = signal.length;
  // The signal with its ends, in one kind of array: the inner loop then has nothing to decide.
  const whole = new Float64Array(n + 2 * middle + factor);
  whole.set(signal, middle);
  if (loop) {
    for (let i = 0; i < middle; i++) whole[i] = signal[(((i - middle) % n) + n) % n];
    for (let i = middle + n; i < whole.length; i++) whole[i] = signal[(i - middle) % n];
  }
  const out = new Float64Array(Math.ceil(n / factor));
  for (let i = 0; i < out.length; i++) out[i] = weigh(taps, whole, i * factor);
  return out;
}
