import { decimate, inverseSpectrum, nextPowerOfTwo, spectrum } from '../dsp/index.js';
import { nearestNote } from '../music/index.js';
import { gainToDb } from '../units/index.js';
import { SILENCE_DB, soundingSpan } from './levels.js';

/** The falling pitch of a kick: times in s, pitch in Hz, level in dB under its greatest. */
export interface PitchTrack {
  readonly timeS: Float64Array;
  readonly hz: Float64Array;
  readonly levelDb: Float64Array;
}

export interface KickTail {
  readonly hz: number;
  readonly note: string;
  readonly cents: number;
  /**
   * Whether the pitch stands still enough to lock to: the medians of the tail's halves differ by less than 10
   * cents.
   */
  readonly steady: boolean;
  /** Phase of the tail as a sine, carried back to the first sample, degrees in (−180, 180]. */
  readonly phaseDeg: number;
  readonly fromS: number;
  readonly toS: number;
}

const STEADY_CENTS = 10;
/**
 * The peak is where the level first comes this near to its greatest: a held tone is at its peak from its
 * start on.
 */
const PEAK_DB = -0.5;

/** Pass band 20 to 400 Hz with raised-cosine edges, zero phase. */
function pass(hz: number): number {
  const edge = (from: number, to: number) =>
    hz <= from ? 0 : hz >= to ? 1 : 0.5 - 0.5 * Math.cos((Math.PI * (hz - from)) / (to - from));
  return edge(14, 22) * (1 - edge(380, 480));
}

/**
 * A recording without its mean: one with DC that is cut off would end with a step, and that step would be
 * taken for its tail.
 */
function withoutMean(signal: ArrayLike<number>): Float64Array {
  let sum = 0;
  for (let i = 0; i < signal.length; i++) sum += signal[i];
  const mean = sum / Math.max(1, signal.length);
  return Float64Array.from(signal, (x) => x - mean);
}

/**
 * The analytic signal of a kick between 20 and 400 Hz, interleaved, at a lower rate; the signal starts `pad`
 * frames in.
 */
function analytic(
  signal: ArrayLike<number>,
  sampleRateHz: number,
): { bins: Float64Array; rate: number; pad: number; frames: number } {
  const factor = Math.max(1, Math.floor(sampleRateHz / 2900));
  const low = decimate(withoutMean(signal), factor);
  const rate = sampleRateHz / factor;
  const pad = Math.round(0.3 * rate);
  const size = nextPowerOfTwo(low.length + 2 * pad);
  const frame = new Float64Array(2 * size);
  for (let i = 0; i < low.length; i++) frame[2 * (pad + i)] = low[i];
  const bins = spectrum(frame);
  for (let k = 0; k < size; k++) {
    const gain = k === 0 || k > size / 2 ? 0 : 2 * pass((k * rate) / size);
    bins[2 * k] *= gain;
    bins[2 * k + 1] *= gain;
  }
  return { bins: inverseSpectrum(bins), rate, pad, frames: low.length };
}

/** Tracks the pitch of a kick by the phase derivative of its analytic signal. Null for silence. */
export function trackKick(signal: ArrayLike<number>, sampleRateHz: number): PitchTrack | null {
  const { bins, rate, pad, frames } = analytic(signal, sampleRateHz);
  const timeS = new Float64Array(frames);
  const hz = new Float64Array(frames);
  const levelDb = new Float64Array(frames);
  let top = 0;
  for (let i = 0; i < frames; i++) {
    const at = 2 * (pad + i);
    const re = bins[at] * bins[at - 2] + bins[at + 1] * bins[at - 1];
    const im = bins[at + 1] * bins[at - 2] - bins[at] * bins[at - 1];
    timeS[i] = i / rate;
    hz[i] = (Math.atan2(im, re) * rate) / (2 * Math.PI);
    levelDb[i] = Math.hypot(bins[at], bins[at + 1]);
    if (levelDb[i] > top) top = levelDb[i];
  }
  if (!(gainToDb(top) > SILENCE_DB)) return null;
  for (let i = 0; i < frames; i++) levelDb[i] = gainToDb(levelDb[i] / top);
  return { timeS, hz, levelDb };
}

/** Median of `hz` weighed by amplitude over the frames [from, to). */
function weightedMedian(track: PitchTrack, from: number, to: number): number {
  const order = Array.from({ length: to - from }, (_, i) => from + i).sort(
    (a, b) => track.hz[a] - track.hz[b],
  );
  const weight = (i: number) => 10 ** (track.levelDb[i] / 20);
  const half = order.reduce((sum, i) => sum + weight(i), 0) / 2;
  let sum = 0;
  for (const i of order) {
    sum += weight(i);
    if (sum >= half) return track.hz[i];
  }
  return NaN;
}

/**
 * Phase in degrees of a sine of `hz` in a stretch of a signal, carried back to its first sample: by the
 * Hann-weighted transform at that frequency.
 */
function phaseAt(
  signal: ArrayLike<number>,
  sampleRateHz: number,
  hz: number,
  fromS: number,
  toS: number,
): number {
  const from = Math.round(fromS * sampleRateHz);
  const to = Math.min(signal.length, Math.round(toS * sampleRateHz));
  let re = 0;
  let im = 0;
  for (let i = from; i < to; i++) {
    const weight = 0.5 - 0.5 * Math.cos((2 * Math.PI * (i - from)) / (to - from));
    const angle = (2 * Math.PI * hz * i) / sampleRateHz;
    re += weight * signal[i] * Math.cos(angle);
    im -= weight * signal[i] * Math.sin(angle);
  }
  const degrees = (Math.atan2(im, re) * 180) / Math.PI + 90;
  return degrees > 180 ? degrees - 360 : degrees;
}

/**
 * The tail of a kick: the amplitude-weighted median pitch over the last 40 % of the time from its peak to the
 * last moment
 * above −30 dB. Null when that is too short for a pitch (under two periods).
 */
export function kickTail(signal: ArrayLike<number>, sampleRateHz: number, a4Hz = 440): KickTail | null {
  const track = trackKick(signal, sampleRateHz);
  if (!track) return null;
  let peak = 0;
  while (track.levelDb[peak] < PEAK_DB) peak++;
  let end = track.levelDb.length;
  while (end > peak + 1 && track.levelDb[end - 1] < -30) end--;
  const from = Math.round(end - 0.4 * (end - peak));
  const rate = 1 / (track.timeS[1] - track.timeS[0]);
  const hz = weightedMedian(track, from, end);
  if (!(hz > 15) || end - from < (2 * rate) / hz) return null;
  const half = Math.floor((from + end) / 2);
  const drift = 1200 * Math.log2(weightedMedian(track, from, half) / weightedMedian(track, half, end));
  const { name, cents } = nearestNote(hz, a4Hz);
  return {
    hz,
    note: name,
    cents,
    steady: Math.abs(drift) < STEADY_CENTS,
    phaseDeg: phaseAt(signal, sampleRateHz, hz, from / rate, end / rate),
    fromS: from / rate,
    toS: end / rate,
  };
}

/**
 * Length of a kick in seconds: from the first to the last moment above −40 dB of its greatest 5 ms; null for
 * silence.
 */
export function kickLengthS(signal: ArrayLike<number>, sampleRateHz: number): number | null {
  const span = soundingSpan(withoutMean(signal), sampleRateHz);
  return span ? span.toS - span.fromS : null;
}
