import { gainToDb, powerToDb } from '../units/index.js';

/** Greatest magnitude of any sample, over all channels. */
export function samplePeak(channels: readonly Float32Array[]): number {
  let peak = 0;
  for (const channel of channels)
    for (let i = 0; i < channel.length; i++) if (Math.abs(channel[i]) > peak) peak = Math.abs(channel[i]);
  return peak;
}

/** Root mean square over all channels. */
export function rms(channels: readonly ArrayLike<number>[]): number {
  let sum = 0;
  let count = 0;
  for (const channel of channels) {
    for (let i = 0; i < channel.length; i++) sum += channel[i] * channel[i];
    count += channel.length;
  }
  return Math.sqrt(sum / Math.max(1, count));
}

/** Sample peak less RMS in dB: 3.01 for a sine, 0 for a square. NaN for silence. */
export function crestDb(channels: readonly Float32Array[]): number {
  return gainToDb(samplePeak(channels)) - gainToDb(rms(channels));
}

/**
 * Mean of a steady tone over the greatest number of whole periods that fit; the last part-sample of a period
 * is weighed.
 */
export function dcOfPeriods(signal: ArrayLike<number>, periodFrames: number): number {
  const periods = Math.floor(signal.length / periodFrames);
  const length = periods * periodFrames;
  const whole = Math.floor(length);
  let sum = 0;
  for (let i = 0; i < whole; i++) sum += signal[i];
  if (whole < signal.length) sum += (length - whole) * signal[whole];
  return sum / length;
}

/** Hann-weighted mean of a signal of half a second or more: for information, where nothing is steady. */
export function dcWeighted(signal: ArrayLike<number>): number {
  let sum = 0;
  let weights = 0;
  for (let i = 0; i < signal.length; i++) {
    const weight = 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / signal.length);
    sum += weight * signal[i];
    weights += weight;
  }
  return weights > 0 ? sum / weights : 0;
}

/** Under this RMS in dB there is silence: the dither of a 16-bit file lies at −96. */
export const SILENCE_DB = -90;

/**
 * First and last moment in seconds at which the 5 ms RMS stands above −40 dB of its greatest; null for
 * silence.
 */
export function soundingSpan(
  signal: ArrayLike<number>,
  sampleRateHz: number,
): { fromS: number; toS: number } | null {
  const size = Math.max(1, Math.round(0.005 * sampleRateHz));
  const count = Math.ceil(signal.length / size);
  const power = new Float64Array(count);
  let greatest = 0;
  for (let f = 0; f < count; f++) {
    const end = Math.min(signal.length, (f + 1) * size);
    let sum = 0;
    for (let i = f * size; i < end; i++) sum += signal[i] * signal[i];
    power[f] = sum / size;
    if (power[f] > greatest) greatest = power[f];
  }
  if (!(powerToDb(greatest) > SILENCE_DB)) return null;
  const floor = greatest * 1e-4;
  let first = 0;
  while (power[first] < floor) first++;
  let last = count - 1;
  while (power[last] < floor) last--;
  return {
    fromS: (first * size) / sampleRateHz,
    toS: Math.min(signal.length, (last + 1) * size) / sampleRateHz,
  };
}
