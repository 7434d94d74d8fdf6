import { blackmanHarris, realSpectrum, spectrum } from '../dsp/index.js';
import { powerToDb } from '../units/index.js';
import { known, unknown, type Audio, type Figure } from './audio.js';

/** Centres of the octave bands: 1000·2^k as they are named. */
const CENTRES = [31.5, 63, 125, 250, 500, 1000, 2000, 4000, 8000];
const FLOOR = 1e-6;

/** One octave band: what it loses when left and right are summed, and how alike the two are. */
export interface MonoBand {
  readonly centreHz: number;
  readonly lossDb: Figure;
  readonly correlation: Figure;
}

export interface MonoReport {
  readonly low: Figure;
  readonly high: Figure;
  readonly worstHighHz: number | null;
  readonly bands: readonly MonoBand[];
}

const windowsBySize = new Map<number, Float64Array>();
function windowOf(size: number): Float64Array {
  let found = windowsBySize.get(size);
  if (!found) windowsBySize.set(size, (found = blackmanHarris(size)));
  return found;
}

interface Powers {
  left: number;
  right: number;
  cross: number;
}

/**
 * Powers of left, right and their product in bands given by their edges, from frames of about 0.68 s with
 * half overlap. Where both
 * sides are the same array one real transform serves; else left goes in as the real and right as the
 * imaginary part of one transform.
 */
function bandPowers(
  { channels, sampleRateHz, loop = false }: Audio,
  edges: readonly (readonly [number, number])[],
): Powers[] {
  const [left, right] = channels;
  const alike = left === right;
  const n = left.length;
  const size = 2 ** Math.round(Math.log2(0.68 * sampleRateHz));
  const window = windowOf(size);
  const out = edges.map(() => ({ left: 0, right: 0, cross: 0 }));
  const ranges = edges.map(
    ([low, high]) =>
      [
        Math.max(1, Math.ceil((low / sampleRateHz) * size)),
        Math.min(size / 2, Math.ceil((high / sampleRateHz) * size)),
      ] as const,
  );
  const frame = new Float64Array(alike ? size : 2 * size);
  const bins = new Float64Array(2 * size);
  const last = loop ? n : Math.max(1, n - size / 2);
  for (let start = 0; start < last; start += size / 2) {
    for (let i = 0; i < size; i++) {
      const at = loop ? (start + i) % n : start + i;
      const l = at < n ? window[i] * left[at] : 0;
      if (alike) frame[i] = l;
      else {
        frame[2 * i] = l;
        frame[2 * i + 1] = at < n ? window[i] * right[at] : 0;
      }
    }
    if (alike) realSpectrum(frame, bins);
    else spectrum(frame, bins);
    for (let band = 0; band < ranges.length; band++)
      addBand(out[band], bins, size, ranges[band][0], ranges[band][1], alike);
  }
  return out;
}

function addBand(
  powers: Powers,
  bins: Float64Array,
  size: number,
  from: number,
  to: number,
  alike: boolean,
): void {
  let left = 0;
  let right = 0;
  let cross = 0;
  for (let k = from; k < to; k++) {
    const re = bins[2 * k],
      im = bins[2 * k + 1];
    if (alike) {
      left += re * re + im * im;
      continue;
    }
    const mirrorRe = bins[2 * (size - k)],
      mirrorIm = bins[2 * (size - k) + 1];
    const lRe = 0.5 * (re + mirrorRe),
      lIm = 0.5 * (im - mirrorIm);
    const rRe = 0.5 * (im + mirrorIm),
      rIm = 0.5 * (mirrorRe - re);
    left += lRe * lRe + lIm * lIm;
    right += rRe * rRe + rIm * rIm;
    cross += lRe * rRe + lIm * rIm;
  }
  powers.left += left;
  powers.right += alike ? left : right;
  powers.cross += alike ? left : cross;
}

/** Rounding leaves about this much of what cancels, or of a silent side; a loss is given down to −120 dB. */
const NOTHING = 1e-12;

function lossOf({ left, right, cross }: Powers): number {
  return Math.min(0, powerToDb(Math.max(NOTHING, (left + right + 2 * cross) / (2 * (left + right)))));
}

/**
 * What is lost when left and right are summed to mono, by octave bands, below 120 Hz, and the worst band from
 * 250 Hz to 8 kHz:
 * 10·log10(P(M)/((P(L)+P(R))/2)). A mono file loses nothing. Bands 60 dB under the whole are null.
 */
export function measureMono(audio: Audio): MonoReport {
  const { channels, sampleRateHz } = audio;
  const edges: [number, number][] = CENTRES.map((_, k) => {
    const centre = 1000 * 2 ** (k - 5);
    return [centre / Math.SQRT2, centre * Math.SQRT2];
  });
  const same =
    channels.length === 1 ||
    channels[0] === channels[1] ||
    channels[0].every((value, i) => value === channels[1][i]);
  const pair = same ? [channels[0], channels[0]] : channels;
  const powers = bandPowers({ ...audio, channels: pair }, [...edges, [20, 120], [10, sampleRateHz / 2]]);
  const whole = powers[powers.length - 1];
  const total = whole.left + whole.right;
  const judge = (band: Powers, name: string): { loss: Figure; correlation: Figure } => {
    const power = band.left + band.right;
    if (!(power > total * FLOOR) || total === 0)
      return { loss: unknown(`nothing sounds ${name}`), correlation: unknown(`nothing sounds ${name}`) };
    if (same) return { loss: known(0), correlation: known(1) };
    const product = Math.sqrt(band.left * band.right);
    return {
      loss: known(lossOf(band)),
      correlation:
        Math.min(band.left, band.right) > NOTHING * power
          ? known(Math.max(-1, Math.min(1, band.cross / product)))
          : unknown('one side is silent'),
    };
  };
  const bands = CENTRES.map((centreHz, k) => {
    const { loss, correlation } = judge(powers[k], `around ${centreHz} Hz`);
    return { centreHz, lossDb: loss, correlation };
  });
  const worst = bands
    .slice(3)
    .filter((band) => band.lossDb.value !== null)
    .sort((a, b) => a.lossDb.value! - b.lossDb.value!)[0];
  return {
    low: judge(powers[CENTRES.length], 'below 120 Hz').loss,
    high: worst ? worst.lossDb : unknown('nothing sounds from 250 Hz to 8 kHz'),
    worstHighHz: worst?.centreHz ?? null,
    bands,
  };
}
