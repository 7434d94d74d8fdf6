import { realSpectrum } from '../dsp/index.js';
import { powerToDb } from '../units/index.js';
import { energyUpTo, type PowerSpectrum } from './power-spectrum.js';

/** Centres of the third-octave bands, base two, in hertz: 1000·2^(k/3), IEC 61260-1, from 25 Hz to 16 kHz. */
export const THIRD_OCTAVES_HZ: readonly number[] = Array.from(
  { length: 29 },
  (_, i) => 1000 * 2 ** ((i - 16) / 3),
);

/** Their edges lie a sixth of an octave on each side. */
const HALF_BAND = 2 ** (1 / 6);

/**
 * Levels in dB of the third-octave bands of a spectrum, at `THIRD_OCTAVES_HZ`: RMS, so that a sine of amplitude 1 in both sides
 * reads −3.0 in its band; the bins at a band's edges count in part. A band without power reads −200.
 */
export function thirdsOf(spectrum: PowerSpectrum): Float64Array {
  const upTo = energyUpTo(spectrum);
  return Float64Array.from(THIRD_OCTAVES_HZ, (hz) =>
    Math.max(-200, powerToDb(upTo(hz * HALF_BAND) - upTo(hz / HALF_BAND) + 1e-30)),
  );
}

const SIZE = 8192;

/**
 * Shares of a band's power that fall to the bins of a spectrum: a bin counts to the band in which its centre
 * lies; a band narrower than a bin takes the nearest.
 */
function bandOf(sampleRateHz: number): Int16Array {
  const bands = new Int16Array(SIZE / 2 + 1).fill(-1);
  for (let k = 1; k < bands.length; k++) {
    const band = Math.round(3 * Math.log2((k * sampleRateHz) / SIZE / 1000)) + 16;
    if (band >= 0 && band < THIRD_OCTAVES_HZ.length) bands[k] = band;
  }
  return bands;
}

/**
 * Mean levels of a loop in third-octave bands, dB, at `THIRD_OCTAVES_HZ`: Hann-weighted frames of 8192, half
 * overlapped (Welch, 1967). A band without power reads −200 dB. For comparing
 * one state of a sound with another; bands under about 60 Hz are few bins wide.
 */
export function thirdOctaves(signal: Float32Array, sampleRateHz: number): Float64Array {
  const bands = bandOf(sampleRateHz);
  const power = new Float64Array(THIRD_OCTAVES_HZ.length);
  const frame = new Float64Array(SIZE);
  const bins = new Float64Array(2 * SIZE);
  const n = signal.length;
  const frames = Math.max(1, Math.ceil(n / (SIZE / 2)));
  for (let f = 0; f < frames && n > 0; f++) {
    for (let i = 0; i < SIZE; i++)
      frame[i] = signal[(f * (SIZE / 2) + i) % n] * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / SIZE));
    realSpectrum(frame, bins);
    for (let k = 1; k < bands.length; k++)
      if (bands[k] >= 0) power[bands[k]] += bins[2 * k] ** 2 + bins[2 * k + 1] ** 2;
  }
  const scale = 8 / 3 / ((frames * (SIZE * SIZE)) / 2);
  return power.map((value) => Math.max(-200, powerToDb(value * scale + 1e-30)));
}
