import { known, middle, unknown, type Audio, type Figure } from './audio.js';
import { findClicks } from './clicks.js';
import { crestDb, samplePeak } from './levels.js';
import { kWeightingDb, measureLoudness } from './loudness.js';
import { measureMono } from './mono.js';
import { fundamental } from './pitch.js';
import { powerSpectrum } from './power-spectrum.js';
import { THIRD_OCTAVES_HZ, thirdsOf } from './third-octaves.js';
import { glareOf, mudDb, subToBodyDb } from './tone.js';
import { truePeakDb } from './true-peak.js';

/** What is measured of any audio, a sound's bass or a file, so that two can be set side by side. */
export interface AudioFigures {
  readonly integratedLufs: Figure;
  readonly truePeakDbtp: Figure;
  readonly crestDb: Figure;
  readonly lowMonoLossDb: Figure;
  readonly highMonoLossDb: Figure;
  readonly subToBodyDb: Figure;
  readonly mudDb: Figure;
  readonly glareDb: Figure;
  readonly clicks: Figure;
  /** Long-term levels by thirds of an octave, dB, at `THIRD_OCTAVES_HZ`. */
  readonly thirdsDb: Float64Array;
}

/** Names and units of the figures that two may be compared by, in their order. */
export const AUDIO_FIGURES: readonly (readonly [Exclude<keyof AudioFigures, 'thirdsDb'>, string, string])[] =
  [
    ['integratedLufs', 'Loudness', 'LUFS'],
    ['truePeakDbtp', 'True peak', 'dBTP'],
    ['crestDb', 'Crest', 'dB'],
    ['subToBodyDb', 'Sub to body', 'dB'],
    ['mudDb', 'Mud', 'dB'],
    ['glareDb', 'Glare', 'dB'],
    ['lowMonoLossDb', 'Mono loss, low', 'dB'],
    ['highMonoLossDb', 'Mono loss, high', 'dB'],
    ['clicks', 'Clicks', ''],
  ];

/**
 * Measures audio.
 *
 * @param f0Hz the lowest fundamental that sounds, for glare; found where it is not given, and left at 0 where none is.
 */
export function audioFigures(audio: Audio, f0Hz?: number): AudioFigures {
  const { channels, sampleRateHz } = audio;
  const spectrum = powerSpectrum(audio);
  const mono = measureMono(audio);
  const lowest = f0Hz ?? fundamental(middle(channels), sampleRateHz, { maxHz: 400 }).value ?? 0;
  const silent = !(samplePeak(channels) > 1e-5);
  return {
    integratedLufs: measureLoudness(audio).integrated,
    truePeakDbtp: truePeakDb(audio),
    crestDb: silent ? unknown('there is only silence') : known(crestDb(channels)),
    lowMonoLossDb: mono.low,
    highMonoLossDb: mono.high,
    subToBodyDb: subToBodyDb(spectrum),
    mudDb: mudDb(spectrum),
    glareDb: glareOf(spectrum, lowest).db,
    clicks: known(findClicks(audio).length),
    thirdsDb: thirdsOf(spectrum),
  };
}

/**
 * Loudness of long-term levels by thirds of an octave, dB: K-weighted, without gates. Two of them are matched by their
 * difference.
 */
export function thirdsLoudnessDb(thirdsDb: ArrayLike<number>): number {
  return (
    10 *
    Math.log10(
      THIRD_OCTAVES_HZ.reduce((sum, hz, i) => sum + 10 ** ((thirdsDb[i] + kWeightingDb(hz)) / 10), 1e-30),
    )
  );
}
