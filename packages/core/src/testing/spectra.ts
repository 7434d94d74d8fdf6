import { realSpectrum } from '../dsp/index.js';

/**
 * Amplitude of each bin of a signal whose length is a power of two; of a sine that fits it, its own
 * amplitude.
 */
export function amplitudes(signal: ArrayLike<number>): Float64Array {
  const n = signal.length;
  const bins = realSpectrum(Float64Array.from(signal));
  return Float64Array.from({ length: n / 2 }, (_, k) => (2 * Math.hypot(bins[2 * k], bins[2 * k + 1])) / n);
}

/**
 * Aliasing as measures.md has it: energy off the harmonics of a frame-locked note that has `cycles` (24 or
 * more) whole cycles, up to a frequency, in dB re the whole. DC is
 * left aside. Under a 4-term Blackman–Harris window, six bins on each side of a harmonic counted to it: a
 * pitch is true to 2^-33 of the rate, and what that leaves
 * beside a harmonic is no alias.
 */
export function aliasingDb(
  signal: ArrayLike<number>,
  cycles: number,
  sampleRateHz: number,
  belowHz = 20000,
): number {
  const n = signal.length;
  const turn = (2 * Math.PI) / n;
  const bins = amplitudes(
    Float64Array.from(
      signal,
      (x, i) =>
        x *
        (0.35875 -
          0.48829 * Math.cos(turn * i) +
          0.14128 * Math.cos(2 * turn * i) -
          0.01168 * Math.cos(3 * turn * i)),
    ),
  );
  let off = 0;
  let all = 0;
  for (let k = 7; k < bins.length && (k * sampleRateHz) / n < belowHz; k++) {
    all += bins[k] ** 2;
    const beside = k % cycles;
    if (Math.min(beside, cycles - beside) > 6) off += bins[k] ** 2;
  }
  return 10 * Math.log10(off / all + 1e-30);
}

/** The note (a fractional MIDI number) that has `cycles` whole cycles in `frames`. */
export const lockedNote = (cycles: number, frames: number, sampleRateHz: number) =>
  69 + 12 * Math.log2((cycles * sampleRateHz) / frames / 440);

/** Bessel function of the first kind by its integral. */
export function bessel(n: number, x: number): number {
  const steps = 2000;
  let sum = 0;
  for (let i = 0; i < steps; i++) {
    const t = (Math.PI * (i + 0.5)) / steps;
    sum += Math.cos(n * t - x * Math.sin(t));
  }
  return sum / steps;
}
