import { hann, realSpectrum, spectrum } from '../dsp/index.js';
import { known, unknown, type Audio, type Figure } from './audio.js';

/** Mean power of both sides by bins; those of a steady sine of amplitude 1 in one side alone add up to 0.25. */
export interface PowerSpectrum {
  readonly power: Float64Array;
  readonly hzPerBin: number;
}

/** Length of the frames, in seconds: bins of 1.5 Hz tell 90 Hz from the harmonics of any note beside it. */
const FRAME_S = 0.68;
const windows = new Map<number, Float64Array>();

/**
 * Mean power by bins over Hann frames of about 0.68 s, half overlapped (Welch, 1967), of one side or of both, whose powers
 * are averaged. Anything else than a loop is followed by silence.
 */
export function powerSpectrum({ channels, sampleRateHz, loop = false }: Audio): PowerSpectrum {
  const [left, right = left] = channels;
  const n = left.length;
  const size = 2 ** Math.round(Math.log2(FRAME_S * sampleRateHz));
  let window = windows.get(size);
  if (!window) windows.set(size, (window = hann(size)));
  const power = new Float64Array(size / 2);
  const alike = left === right;
  const frame = new Float64Array(alike ? size : 2 * size);
  const bins = new Float64Array(2 * size);
  const last = loop ? n : Math.max(1, n - size / 2);
  let frames = 0;
  for (let start = 0; start < last; start += size / 2, frames++) {
    for (let i = 0; i < size; i++) {
      const at = loop ? (start + i) % n : start + i;
      const l = at < n ? window[i] * left[at] : 0;
      if (alike) frame[i] = l;
      else {
        frame[2 * i] = l;
        frame[2 * i + 1] = at < n ? window[i] * right[at] : 0;
      }
    }
    if (alike) {
      realSpectrum(frame, bins);
      for (let k = 1; k < size / 2; k++) power[k] += 4 * (bins[2 * k] ** 2 + bins[2 * k + 1] ** 2);
      continue;
    }
    spectrum(frame, bins);
    // Of l + i·r, the powers at k and −k add up to twice those of l and r.
    for (let k = 1; k < size / 2; k++) {
      const mirror = size - k;
      power[k] += bins[2 * k] ** 2 + bins[2 * k + 1] ** 2 + bins[2 * mirror] ** 2 + bins[2 * mirror + 1] ** 2;
    }
  }
  const windowPower = window.reduce((sum, w) => sum + w * w, 0);
  for (let k = 0; k < power.length; k++) power[k] /= 2 * size * windowPower * Math.max(1, frames);
  return { power, hzPerBin: sampleRateHz / size };
}

/** Energy from one frequency up to another, in hertz; a bin counts where its centre lies within. */
export function energyWithin({ power, hzPerBin }: PowerSpectrum, fromHz: number, toHz: number): number {
  const to = Math.min(power.length, Math.ceil(toHz / hzPerBin));
  let sum = 0;
  for (let k = Math.max(1, Math.ceil(fromHz / hzPerBin)); k < to; k++) sum += power[k];
  return sum;
}

/** The energy of a spectrum up to any frequency in hertz; the bins at the edge count in part. */
export function energyUpTo({ power, hzPerBin }: PowerSpectrum): (hz: number) => number {
  const sums = new Float64Array(power.length + 1);
  for (let k = 0; k < power.length; k++) sums[k + 1] = sums[k] + power[k];
  return (hz) => {
    const at = Math.min(power.length, Math.max(0, hz / hzPerBin + 0.5));
    const k = Math.min(power.length - 1, Math.floor(at));
    return sums[k] + (at - k) * power[k];
  };
}

/** A mean square under this is silence, −100 dB. */
const SILENT = 1e-10;
/** What stands further down than this under the other is nothing, in power: a ratio goes no further than 120 dB. */
const NOTHING = 1e-12;

/** Energy of one range over that of another, dB; null where both are silent. */
export function energyRatioDb(
  spectrum: PowerSpectrum,
  [fromHz, toHz]: readonly [number, number],
  [overFromHz, overToHz]: readonly [number, number],
): Figure {
  const energy = energyWithin(spectrum, fromHz, toHz);
  const over = energyWithin(spectrum, overFromHz, overToHz);
  if (!(energy + over > SILENT)) return unknown('nothing sounds there');
  return known(10 * Math.log10((energy + NOTHING * over) / (over + NOTHING * energy)));
}
