import { hann, realSpectrum } from '../dsp/index.js';
import { fundamental } from './pitch.js';
import { known, unknown, type Figure } from './audio.js';

/** Frames of an envelope: short enough for a wobble of 40 Hz, long enough for bands from an octave above the sub up. */
const SIZE = 1024;
const HOP = 192;
const WINDOW = hann(SIZE);
const LOWEST_HZ = 180;
const BANDS = 6;
/** Levels lower than this under the loudest of a band tell nothing of its movement, dB. */
const RANGE_DB = 50;
/** A band that moves by less than this has no wobble, dB from its mean (RMS). */
const LEAST_MOVE_DB = 0.7;
/** Bands so far under the loudest are left out, dB. */
const BAND_RANGE_DB = 36;
/** Rates are looked for within this ratio of those that are asked for. */
const AROUND = 4;
const FASTEST_HZ = 45;

/** Levels are weighed over so many frames on each side: cycles of the note that a short frame shows are no wobble. */
const SMOOTH = 4;
/** How far around the first period that repeats the best one is looked for. */
const NEAR = 1.2;

/** Levels in dB of octave bands from 180 Hz up over time, and how many in a second. */
export interface Envelopes {
  readonly bands: readonly Float64Array[];
  readonly rateHz: number;
}

/** Levels of octave bands of a signal over time, frame by frame; the last frame ends with it. */
export function bandEnvelopes(signal: Float32Array, sampleRateHz: number): Envelopes {
  const count = Math.max(0, Math.floor((signal.length - SIZE) / HOP) + 1);
  const bands = Array.from({ length: BANDS }, () => new Float64Array(count));
  const frame = new Float64Array(SIZE);
  const bins = new Float64Array(2 * SIZE);
  const edges = Array.from({ length: BANDS + 1 }, (_, b) =>
    Math.min(SIZE / 2, Math.round(((LOWEST_HZ * 2 ** b) / sampleRateHz) * SIZE)),
  );
  for (let f = 0; f < count; f++) {
    for (let i = 0; i < SIZE; i++) frame[i] = WINDOW[i] * signal[f * HOP + i];
    realSpectrum(frame, bins);
    for (let b = 0; b < BANDS; b++) {
      let sum = 0;
      for (let k = edges[b]; k < edges[b + 1]; k++) sum += bins[2 * k] ** 2 + bins[2 * k + 1] ** 2;
      bands[b][f] = 10 * Math.log10(sum + 1e-12);
    }
  }
  return { bands, rateHz: sampleRateHz / HOP };
}

/** Levels weighed over their neighbours by a raised cosine. */
function smoothed(levels: Float64Array): Float64Array {
  const weights = Array.from(
    { length: 2 * SMOOTH + 1 },
    (_, i) => 1 + Math.cos((Math.PI * (i - SMOOTH)) / (SMOOTH + 1)),
  );
  return levels.map((_, at) => {
    let sum = 0;
    let all = 0;
    for (let d = -SMOOTH; d <= SMOOTH; d++) {
      if (at + d < 0 || at + d >= levels.length) continue;
      sum += weights[d + SMOOTH] * levels[at + d];
      all += weights[d + SMOOTH];
    }
    return sum / all;
  });
}

/**
 * Cycles a second in which a stretch of a sound moves: the pitch (YIN) of the level in dB of the octave band that moves most,
 * within two octaves of the rates that are asked for. Null where it has fewer than two cycles of any of these, or nothing moves in
 * a pattern that repeats.
 */
export function wobbleOf(
  { bands, rateHz }: Envelopes,
  from: number,
  to: number,
  askedHz: readonly number[],
): Figure {
  const [least, most] = [Math.min(...askedHz), Math.max(...askedHz)];
  if (askedHz.length === 0) return unknown('no wobble moves it');
  if ((to - from) * most < 2) return unknown('fewer than two cycles');
  const [first, last] = [
    Math.max(0, Math.ceil(from * rateHz)),
    Math.min(bands[0].length, Math.floor(to * rateHz)),
  ];
  if (last - first < 8) return unknown('too short to tell');
  const stretches = bands.map((band) => band.subarray(first, last));
  const peaks = stretches.map((stretch) => stretch.reduce((most, x) => Math.max(most, x), -Infinity));
  const loudest = Math.max(...peaks);
  const moving = stretches
    .filter((_, b) => peaks[b] > loudest - BAND_RANGE_DB)
    .map((stretch) => {
      const peak = stretch.reduce((most, x) => Math.max(most, x), -Infinity);
      const levels = smoothed(stretch.map((x) => Math.max(x, peak - RANGE_DB)));
      const mean = levels.reduce((sum, x) => sum + x, 0) / levels.length;
      const centred = levels.map((x) => x - mean);
      return { centred, moves: Math.sqrt(centred.reduce((sum, x) => sum + x * x, 0) / centred.length) };
    })
    .reduce((most, each) => (each.moves > most.moves ? each : most));
  if (moving.moves < LEAST_MOVE_DB) return unknown('nothing moves');
  const slowest = Math.max(least / AROUND, (2 * rateHz) / moving.centred.length);
  const fastest = Math.min(FASTEST_HZ, AROUND * most);
  const found = fundamental(moving.centred, rateHz, { minHz: slowest, maxHz: fastest, leastCycles: 2 });
  if (found.value === null) return unknown('none that repeats is found');
  const best = fundamental(moving.centred, rateHz, {
    minHz: Math.max(slowest, found.value / NEAR),
    maxHz: found.value * NEAR,
    deepest: true,
    leastCycles: 2,
  });
  return best.value === null ? found : known(best.value);
}
