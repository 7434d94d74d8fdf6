import { kaiser, kaiserBeta } from '../transforms/windows.js';

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/** Zero crossings of the sinc on each side of the middle, at the lower of the two rates. */
const CROSSINGS = 48;
const ATTENUATION_DB = 110;
/** Pass band as a share of the lower rate's half. */
const EDGE = 0.94;

/**
 * Resamples by a rational ratio with a polyphase Kaiser-windowed sinc (Smith, Digital audio resampling,
 * 2002): pass band to
 * 0.94 of the lower Nyquist frequency, images and aliases 110 dB down outside the transition. Zero delay:
 * frame 0
 * stays frame 0. Rates in hertz, whole numbers.
 */
export function resample(signal: Float32Array, fromHz: number, toHz: number): Float32Array {
  if (fromHz === toHz) return signal;
  const common = gcd(Math.round(fromHz), Math.round(toHz));
  const up = Math.round(toHz) / common;
  const down = Math.round(fromHz) / common;
  const scale = Math.min(1, toHz / fromHz);
  const reach = Math.ceil(CROSSINGS / scale);
  const width = 2 * reach;
  const points = 2 * reach * up + 1;
  const window = kaiser(points, kaiserBeta(ATTENUATION_DB));
  const cutoff = (scale * (1 + EDGE)) / 2;
  // taps[phase][k] weighs input frame base − reach + 1 + k for an output that lies phase/up after frame
  // `base`.
  const taps = new Float64Array(up * width);
  for (let phase = 0; phase < up; phase++) {
    let sum = 0;
    for (let k = 0; k < width; k++) {
      const steps = (k - reach + 1) * up - phase;
      const t = steps / up;
      const sinc = t === 0 ? cutoff : Math.sin(Math.PI * cutoff * t) / (Math.PI * t);
      const value = sinc * window[steps + reach * up];
      taps[phase * width + k] = value;
      sum += value;
    }
    for (let k = 0; k < width; k++) taps[phase * width + k] /= sum;
  }
  const length = Math.max(1, Math.round((signal.length * toHz) / fromHz));
  const out = new Float32Array(length);
  for (let i = 0; i < length; i++) {
    const place = i * down;
    const base = Math.floor(place / up);
    const at = (place - base * up) * width;
    const first = base - reach + 1;
    let sum = 0;
    const from = Math.max(0, -first);
    const to = Math.min(width, signal.length - first);
    for (let k = from; k < to; k++) sum += taps[at + k] * signal[first + k];
    out[i] = sum;
  }
  return out;
}
