import { decimate, hann, realSpectrum } from '../dsp/index.js';
import { powerToDb } from '../units/index.js';

/** Bands of the depth chart: 24 to the octave from 20 Hz to 16 kHz. */
export const DEPTH_BANDS_HZ: readonly number[] = Array.from(
  { length: Math.floor(24 * Math.log2(16000 / 20)) + 1 },
  (_, i) => 20 * 2 ** (i / 24),
);

/** Frames for the bands below 1 kHz (of the decimated signal) and above it. */
const LOW_SIZE = 8192;
const HIGH_SIZE = 4096;
const SPLIT_HZ = 1000;
/** Frames of what sounds at a moment: a third of a second at 48 kHz, which tells notes from E1 up apart. */
export const MOMENT_SIZE = 16384;
const WINDOWS = new Map([LOW_SIZE, HIGH_SIZE, MOMENT_SIZE].map((size) => [size, hann(size)]));

/**
 * Power of each bin averaged over frames a hop apart; the bins of a steady sine add up to its mean square.
 */
function averagePower(
  signal: Float32Array | Float64Array,
  size: number,
  hop: number,
  loop: boolean,
): Float64Array {
  const n = signal.length;
  const window = WINDOWS.get(size)!;
  const windowPower = window.reduce((sum, w) => sum + w * w, 0);
  const power = new Float64Array(size / 2);
  const frame = new Float64Array(size);
  const bins = new Float64Array(2 * size);
  const last = loop ? n : Math.max(1, n - size + hop);
  let frames = 0;
  for (let start = 0; start < last; start += hop) {
    for (let i = 0; i < size; i++) {
      const at = start + i;
      frame[i] = at < n ? window[i] * signal[at] : loop ? window[i] * signal[at % n] : 0;
    }
    realSpectrum(frame, bins);
    for (let k = 1; k < size / 2; k++)
      power[k] += bins[2 * k] * bins[2 * k] + bins[2 * k + 1] * bins[2 * k + 1];
    frames++;
  }
  const scale = 2 / (size * windowPower * frames);
  for (let k = 0; k < power.length; k++) power[k] *= scale;
  return power;
}

/**
 * Power in a raised-cosine band around a frequency; at least as wide as the window's main lobe, so that a
 * lone sine reads its level.
 */
function bandPower(power: Float64Array, rate: number, hz: number): number {
  const perBin = rate / (2 * power.length);
  const half = Math.max(hz * (2 ** (1 / 24) - 1), 2.5 * perBin);
  const from = Math.max(1, Math.ceil((hz - half) / perBin));
  const to = Math.min(power.length - 1, Math.floor((hz + half) / perBin));
  let sum = 0;
  for (let k = from; k <= to; k++) {
    const t = Math.abs(k * perBin - hz) / half;
    // Flat over the middle half, so that a sine within it counts in full.
    const weight = t < 0.5 ? 1 : 0.5 + 0.5 * Math.cos(Math.PI * (2 * t - 1));
    sum += weight * power[k];
  }
  return sum;
}

/**
 * Mean level in dB of each band of the depth chart: RMS, so that a sine of amplitude 1 reads −3.0 in its
 * band. Below
 * 1 kHz frames of 8192 samples of the signal at an eighth of its rate, over a second each; above, frames of
 * 4096 (Brown, Calculation of a constant Q spectral transform, 1991, by staged decimation).
 */
export function depthSpectrum(signal: Float32Array, sampleRateHz: number, loop = false): Float64Array {
  const factor = Math.max(1, Math.round(sampleRateHz / 6000));
  const low = averagePower(decimate(signal, factor, loop), LOW_SIZE, LOW_SIZE / 2, loop);
  const high = averagePower(signal, HIGH_SIZE, 0.75 * HIGH_SIZE, loop);
  return Float64Array.from(DEPTH_BANDS_HZ, (hz) => {
    if (hz > sampleRateHz * 0.48) return -200;
    const power =
      hz < SPLIT_HZ ? bandPower(low, sampleRateHz / factor, hz) : bandPower(high, sampleRateHz, hz);
    return Math.max(-200, powerToDb(power));
  });
}

/**
 * Level in dB of each band of the depth chart over the last `MOMENT_SIZE` samples of a signal, one windowed frame:
 * what sounds at the moment. As `depthSpectrum`, a sine of amplitude 1 reads −3.0.
 */
export function momentSpectrum(signal: Float32Array, sampleRateHz: number): Float64Array {
  const power = averagePower(signal.subarray(-MOMENT_SIZE), MOMENT_SIZE, MOMENT_SIZE, false);
  return Float64Array.from(DEPTH_BANDS_HZ, (hz) =>
    hz > sampleRateHz * 0.48 ? -200 : Math.max(-200, powerToDb(bandPower(power, sampleRateHz, hz))),
  );
}
