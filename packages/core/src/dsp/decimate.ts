import { kaiserLowPass } from './windows.js';

/** Taps that keep what lies below 0.31 of the lower rate and hold aliases 100 dB under; shared by every factor. */
const cache = new Map<number, Float64Array>();

function tapsFor(factor: number): Float64Array {
  let taps = cache.get(factor);
  if (!taps) cache.set(factor, (taps = kaiserLowPass(0.5 / factor, 0.38 / factor, 100)));
  return taps;
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
  const out = new Float64Array(Math.ceil(n / factor));
  for (let i = 0; i < out.length; i++) {
    const first = i * factor - middle;
    let sum = 0;
    if (first >= 0 && first + taps.length <= n) {
      for (let k = 0; k < taps.length; k++) sum += taps[k] * signal[first + k];
    } else {
      for (let k = 0; k < taps.length; k++) {
        let at = first + k;
        if (loop) at = ((at % n) + n) % n;
        else if (at < 0 || at >= n) continue;
        sum += taps[k] * signal[at];
      }
    }
    out[i] = sum;
  }
  return out;
}
