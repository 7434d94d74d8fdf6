// The package brings no types of its own, and whoever builds on this file needs ours.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./fft-js.d.ts" />
import FFT from 'fft.js';

const plans = new Map<number, FFT>();

function plan(size: number): FFT {
  let found = plans.get(size);
  if (!found) plans.set(size, (found = new FFT(size)));
  return found;
}

/** The least power of two that is not below n. */
export function nextPowerOfTwo(n: number): number {
  return 2 ** Math.ceil(Math.log2(Math.max(2, n)));
}

/**
 * Spectrum of a real signal whose length N is a power of two: interleaved re, im of 2N values, of which bins
 * 0 to N/2
 * are filled. Not scaled.
 */
export function realSpectrum(
  signal: ArrayLike<number>,
  out = new Float64Array(2 * signal.length),
): Float64Array {
  plan(signal.length).realTransform(out, signal);
  return out;
}

/** Spectrum of an interleaved complex signal of N values (2N numbers), N a power of two. Not scaled. */
export function spectrum(signal: Float64Array, out = new Float64Array(signal.length)): Float64Array {
  plan(signal.length / 2).transform(out, signal);
  return out;
}

/** Inverse of `spectrum`, scaled by 1/N. */
export function inverseSpectrum(bins: Float64Array, out = new Float64Array(bins.length)): Float64Array {
  plan(bins.length / 2).inverseTransform(out, bins);
  return out;
}
