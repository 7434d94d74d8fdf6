/**
 * Modified Bessel function of the first kind, order 0, by its power series (Abramowitz and Stegun, 9.6.12).
 */
export function besselI0(x: number): number {
  const q = (x * x) / 4;
  let term = 1;
  let sum = 1;
  for (let k = 1; k < 500; k++) {
    term *= q / (k * k);
    sum += term;
    if (term < sum * 1e-17) break;
  }
  return sum;
}

/** Kaiser's β for a stop-band attenuation in dB (Kaiser, 1974; Oppenheim and Schafer, eq. 7.75). */
export function kaiserBeta(attenuationDb: number): number {
  if (attenuationDb > 50) return 0.1102 * (attenuationDb - 8.7);
  if (attenuationDb >= 21) return 0.5842 * (attenuationDb - 21) ** 0.4 + 0.07886 * (attenuationDb - 21);
  return 0;
}

/** Taps of a Kaiser-window FIR of a transition width (as a share of the sample rate), made odd. */
export function kaiserLength(attenuationDb: number, transition: number): number {
  const n = Math.ceil((attenuationDb - 8) / (2.285 * 2 * Math.PI * transition)) + 1;
  return n % 2 === 0 ? n + 1 : n;
}

/** Kaiser window of n points, 1 at its middle. */
export function kaiser(n: number, beta: number): Float64Array {
  const window = new Float64Array(n);
  const i0 = besselI0(beta);
  for (let i = 0; i < n; i++) {
    const r = n === 1 ? 0 : (2 * i) / (n - 1) - 1;
    window[i] = besselI0(beta * Math.sqrt(Math.max(0, 1 - r * r))) / i0;
  }
  return window;
}

/** Linear-phase low-pass of odd length, −6 dB at `cutoff` (a share of the sample rate), gain 1 at 0. */
export function kaiserLowPass(cutoff: number, transition: number, attenuationDb: number): Float64Array {
  const n = kaiserLength(attenuationDb, transition);
  const taps = kaiser(n, kaiserBeta(attenuationDb));
  const middle = (n - 1) / 2;
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const t = i - middle;
    taps[i] *= t === 0 ? 2 * cutoff : Math.sin(2 * Math.PI * cutoff * t) / (Math.PI * t);
    sum += taps[i];
  }
  for (let i = 0; i < n; i++) taps[i] /= sum;
  return taps;
}

/** Periodic Hann window. */
export function hann(n: number): Float64Array {
  return Float64Array.from({ length: n }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n));
}

/** Periodic 4-term Blackman–Harris window, side lobes −92 dB (Harris, 1978). */
export function blackmanHarris(n: number): Float64Array {
  return Float64Array.from({ length: n }, (_, i) => {
    const x = (2 * Math.PI * i) / n;
    return 0.35875 - 0.48829 * Math.cos(x) + 0.14128 * Math.cos(2 * x) - 0.01168 * Math.cos(3 * x);
  });
}
