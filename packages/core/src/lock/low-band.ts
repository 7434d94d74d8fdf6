import { decimate, inverseSpectrum, kaiserLowPass, nextPowerOfTwo, spectrum } from '../dsp/index.js';

/** A signal below Lock's frequency as an analytic signal: real and imaginary part at a lower rate. */
export interface LowBand {
  readonly re: Float64Array;
  readonly im: Float64Array;
  readonly rateHz: number;
  /** Whether its end runs into its start. */
  readonly loop: boolean;
}

/**
 * The frames [from, to) of a low band by themselves; those outside of a loop are taken from where it runs
 * round to, those outside of anything else are silent.
 */
export function stretchOf({ re, im, rateHz, loop }: LowBand, from: number, to: number): LowBand {
  const n = re.length;
  if (from >= 0 && to <= n)
    return { re: re.subarray(from, to), im: im.subarray(from, to), rateHz, loop: false };
  const out = { re: new Float64Array(to - from), im: new Float64Array(to - from), rateHz, loop: false };
  for (let i = from; i < to; i++) {
    const at = loop ? ((i % n) + n) % n : i;
    if (at < 0 || at >= n) continue;
    out.re[i - from] = re[at];
    out.im[i - from] = im[at];
  }
  return out;
}

const PAD_S = 0.3;
const HIGH_PASS_HZ = 15;

const responses = new Map<string, Float64Array>();

function responseFor(belowHz: number, rate: number, size: number): Float64Array {
  const key = `${belowHz} ${rate} ${size}`;
  let found = responses.get(key);
  if (!found) {
    // Dragging the frequency would otherwise fill the memory.
    if (responses.size > 32) responses.clear();
    responses.set(key, (found = response(belowHz, rate, size)));
  }
  return found;
}

/**
 * Magnitude at each bin of Lock's zero-delay filters: Kaiser FIR (−6 dB at `below`, transition below/3, 80
 * dB) and 15 Hz high-pass.
 */
function response(belowHz: number, rate: number, size: number): Float64Array {
  const taps = kaiserLowPass(belowHz / rate, belowHz / 3 / rate, 80);
  const frame = new Float64Array(2 * size);
  const middle = (taps.length - 1) / 2;
  // Laid round the origin, so that its spectrum is real: no delay.
  for (let i = 0; i < taps.length; i++) frame[2 * ((i - middle + size) % size)] = taps[i];
  const bins = spectrum(frame);
  const gains = new Float64Array(size / 2 + 1);
  for (let k = 1; k <= size / 2; k++) {
    // Second-order Butterworth, forward and back: its squared magnitude.
    const ratio = HIGH_PASS_HZ / ((k * rate) / size);
    gains[k] = bins[2 * k] / (1 + ratio ** 4);
  }
  return gains;
}

/**
 * Takes what a signal has below a frequency, as an analytic signal, at about 3 kHz. A loop runs into itself;
 * anything else is
 * padded with 0.3 s of silence.
 */
export function lowBand(
  signal: ArrayLike<number>,
  sampleRateHz: number,
  belowHz = 120,
  loop = false,
): LowBand {
  const factor = Math.max(1, Math.floor(sampleRateHz / 2900));
  const low = decimate(signal, factor, loop);
  const rate = sampleRateHz / factor;
  const n = low.length;
  const taps = Math.ceil(72 / (2.285 * 2 * Math.PI * (belowHz / 3 / rate)) + 3);
  const pad = Math.max(Math.round(PAD_S * rate), Math.ceil(taps / 2));
  const size = nextPowerOfTwo(n + 2 * pad);
  const frame = new Float64Array(2 * size);
  if (loop) for (let i = 0; i < n + 2 * pad; i++) frame[2 * i] = low[(((i - pad) % n) + n) % n];
  else for (let i = 0; i < n; i++) frame[2 * (pad + i)] = low[i];
  const bins = spectrum(frame);
  const gains = responseFor(belowHz, rate, size);
  for (let k = 0; k < size; k++) {
    const gain = k > 0 && k < size / 2 ? 2 * gains[k] : 0;
    bins[2 * k] *= gain;
    bins[2 * k + 1] *= gain;
  }
  const out = inverseSpectrum(bins);
  const re = new Float64Array(n);
  const im = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    re[i] = out[2 * (pad + i)];
    im[i] = out[2 * (pad + i) + 1];
  }
  return { re, im, rateHz: rate, loop };
}
