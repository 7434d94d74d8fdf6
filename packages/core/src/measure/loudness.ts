import { powerToDb } from '../units/index.js';
import { known, unknown, type Audio, type Figure } from './audio.js';

/** Loudness after ITU-R BS.1770-5 and EBU Tech 3342: LUFS, and LU for the range. */
export interface LoudnessReport {
  readonly integrated: Figure;
  readonly shortTermMax: Figure;
  readonly momentaryMax: Figure;
  readonly range: Figure;
}

interface Biquad {
  readonly b: readonly [number, number, number];
  readonly a: readonly [number, number];
}

/**
 * The two sections of K-weighting at a rate in hertz. At 48 kHz the published coefficients of BS.1770; at
 * other rates from the
 * analogue prototype behind them.
 */
export function kWeighting(sampleRateHz: number): readonly [Biquad, Biquad] {
  if (sampleRateHz === 48000) {
    return [
      {
        b: [1.53512485958697, -2.69169618940638, 1.19839281085285],
        a: [-1.69065929318241, 0.73248077421585],
      },
      { b: [1, -2, 1], a: [-1.99004745483398, 0.99007225036621] },
    ];
  }
  const section = (f0: number, q: number) => {
    const k = Math.tan((Math.PI * f0) / sampleRateHz);
    const a0 = 1 + k / q + k * k;
    return { k, kq: k / q, a0, a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0] as const };
  };
  const shelf = section(1681.97445, 0.70717524);
  const high = 10 ** (3.99984385 / 20);
  const middle = high ** 0.49966677;
  const { k, kq, a0 } = shelf;
  return [
    {
      b: [(high + middle * kq + k * k) / a0, (2 * (k * k - high)) / a0, (high - middle * kq + k * k) / a0],
      a: shelf.a,
    },
    { b: [1, -2, 1], a: section(38.1354709, 0.50032704).a },
  ];
}

/** Gain of K-weighting at a frequency in hertz, dB, without the offset of the loudness: that of its sections at 48 kHz. */
export function kWeightingDb(hz: number): number {
  const w = (2 * Math.PI * hz) / 48000;
  const [c1, s1, c2, s2] = [Math.cos(w), Math.sin(w), Math.cos(2 * w), Math.sin(2 * w)];
  const square = (x0: number, x1: number, x2: number) =>
    (x0 + x1 * c1 + x2 * c2) ** 2 + (x1 * s1 + x2 * s2) ** 2;
  return kWeighting(48000).reduce((db, { b, a }) => db + 10 * Math.log10(square(...b) / square(1, ...a)), 0);
}

/**
 * Adds the K-weighted power of a channel to `power`; a loop is run through once before, so that the filters
 * have settled.
 */
function addWeightedPower(
  channel: Float32Array,
  power: Float64Array,
  [shelf, high]: readonly [Biquad, Biquad],
  loop: boolean,
): void {
  const [b0, b1, b2] = shelf.b;
  const [a1, a2] = shelf.a;
  const [c1, c2] = high.a;
  let s1 = 0,
    s2 = 0,
    t1 = 0,
    t2 = 0;
  for (let round = loop ? 0 : 1; round < 2; round++) {
    for (let i = 0; i < channel.length; i++) {
      const x = channel[i];
      const y = b0 * x + s1;
      s1 = b1 * x - a1 * y + s2;
      s2 = b2 * x - a2 * y;
      const z = y + t1;
      t1 = -2 * y - c1 * z + t2;
      t2 = y - c2 * z;
      if (round === 1) power[i] += z * z;
    }
  }
}

/** What is added to a weighted mean square in dB: BS.1770. */
export const OFFSET_DB = -0.691;
const HOP_S = 0.1;

/** Mean power of every window of a length in seconds, 100 ms apart; windows of a loop run over its end. */
function windows(
  sums: Float64Array,
  frames: number,
  sampleRateHz: number,
  lengthS: number,
  loop: boolean,
): number[] {
  const length = Math.round(lengthS * sampleRateHz);
  const upTo = (i: number) => Math.floor(i / frames) * sums[frames] + sums[i % frames];
  const out: number[] = [];
  for (let h = 0; ; h++) {
    const from = Math.round(h * HOP_S * sampleRateHz);
    if (loop ? from >= frames : from + length > frames) return out;
    const end = from + length;
    out.push((loop ? upTo(end) - upTo(from) : sums[end] - sums[from]) / length);
  }
}

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
const lufs = (power: number) => OFFSET_DB + powerToDb(power);
const fromLufs = (loudness: number) => 10 ** ((loudness - OFFSET_DB) / 10);

function gatedMean(blocks: readonly number[], relativeLu: number): number[] {
  const loud = blocks.filter((power) => power > fromLufs(-70));
  if (loud.length === 0) return [];
  const gate = mean(loud) * 10 ** (relativeLu / 10);
  return loud.filter((power) => power > gate);
}

/** Loudness of a piece of audio or of a loop. A mono file counts as one channel. */
export function measureLoudness({ channels, sampleRateHz, loop = false }: Audio): LoudnessReport {
  const frames = channels[0].length;
  const power = new Float64Array(frames);
  const sections = kWeighting(sampleRateHz);
  const same = channels.length === 2 && channels[0] === channels[1];
  addWeightedPower(channels[0], power, sections, loop);
  if (same) for (let i = 0; i < frames; i++) power[i] *= 2;
  else if (channels.length === 2) addWeightedPower(channels[1], power, sections, loop);
  const sums = new Float64Array(frames + 1);
  for (let i = 0; i < frames; i++) sums[i + 1] = sums[i] + power[i];

  const momentary = windows(sums, frames, sampleRateHz, 0.4, loop);
  const shortTerm = windows(sums, frames, sampleRateHz, 3, loop);
  const gated = gatedMean(momentary, -10);
  const silent = unknown('nothing is louder than −70 LUFS');
  const short = (lengthS: number) => unknown(`shorter than ${lengthS} s`);
  const greatest = (blocks: readonly number[], lengthS: number): Figure => {
    if (blocks.length === 0) return short(lengthS);
    const most = Math.max(...blocks);
    return most > 0 ? known(lufs(most)) : silent;
  };
  const spread = gatedMean(shortTerm, -20).sort((a, b) => a - b);
  const percentile = (p: number) => lufs(spread[Math.round(p * (spread.length - 1))]);
  return {
    integrated: momentary.length === 0 ? short(0.4) : gated.length === 0 ? silent : known(lufs(mean(gated))),
    momentaryMax: greatest(momentary, 0.4),
    shortTermMax: greatest(shortTerm, 3),
    range:
      shortTerm.length < 2
        ? short(3.1)
        : spread.length === 0
          ? silent
          : known(percentile(0.95) - percentile(0.1)),
  };
}
