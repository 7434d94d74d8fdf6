/**
 * Test signals. Frequencies in hertz, phases in degrees, lengths in seconds; floats at 48 kHz unless a rate
 * is given.
 */
export const RATE = 48000;

export function sine(
  hz: number,
  seconds: number,
  { amplitude = 1, phaseDeg = 0, rate = RATE, fadeS = 0 } = {},
): Float32Array {
  const frames = Math.round(seconds * rate);
  return Float32Array.from({ length: frames }, (_, i) => {
    const fade = fadeS === 0 ? 1 : Math.min(1, i / (fadeS * rate), (frames - 1 - i) / (fadeS * rate));
    return fade * amplitude * Math.sin((2 * Math.PI * hz * i) / rate + (phaseDeg * Math.PI) / 180);
  });
}

/** A saw of all harmonics below a frequency, each at 1/n. */
export function saw(hz: number, seconds: number, { belowHz = 20000, rate = RATE } = {}): Float32Array {
  const partials = Math.ceil(belowHz / hz) - 1;
  // The closed form of Σ sin(nθ)/n has no bound of its own; the cycle is summed once, finely, and read by
  // linear interpolation.
  const size = 65536;
  const cycle = new Float64Array(size + 1);
  for (let n = 1; n <= partials; n++)
    for (let i = 0; i <= size; i++) cycle[i] += (0.6 / n) * Math.sin((2 * Math.PI * ((n * i) % size)) / size);
  return Float32Array.from({ length: Math.round(seconds * rate) }, (_, i) => {
    const x = (((i * hz) / rate) % 1) * size;
    const k = Math.floor(x);
    return cycle[k] + (x - k) * (cycle[k + 1] - cycle[k]);
  });
}

/**
 * Even noise between −1 and 1 from a linear congruential generator (Numerical Recipes' constants), so that
 * tests repeat.
 */
export function noise(frames: number, seed = 1): Float32Array {
  let x = seed >>> 0;
  return Float32Array.from({ length: frames }, () => {
    x = (Math.imul(x, 1664525) + 1013904223) >>> 0;
    return x / 2147483648 - 1;
  });
}

export const db = (ratio: number) => 20 * Math.log10(Math.abs(ratio));

/** Amplitude of a sinusoid of a frequency in a stretch of whole periods, by correlation. */
export function amplitudeAt(signal: ArrayLike<number>, hz: number, rate = RATE): number {
  let re = 0;
  let im = 0;
  for (let i = 0; i < signal.length; i++) {
    re += signal[i] * Math.cos((2 * Math.PI * hz * i) / rate);
    im += signal[i] * Math.sin((2 * Math.PI * hz * i) / rate);
  }
  return (2 * Math.hypot(re, im)) / signal.length;
}

export const rms = (x: ArrayLike<number>, from = 0, to = x.length) => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += x[i] ** 2;
  return Math.sqrt(sum / (to - from));
};

/** How far what is left of `a` without `b` lies under `a`, in dB. */
export function nullDb(a: ArrayLike<number>, b: ArrayLike<number>): number {
  return 20 * Math.log10(rms(Float64Array.from(a, (x, i) => x - b[i])) / rms(a) + 1e-12);
}
