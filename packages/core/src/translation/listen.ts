import { gainToDb } from '../units/index.js';
import { densitiesOf, hearingThresholdDb, noiseWithinDb } from './hearing.js';
import type { Harmonics } from './harmonics.js';
import { responseDb } from './response.js';
import type { PlaybackSystem } from './systems.js';

/** What a listener gets of a note. */
export type Heard = 'felt' | 'implied' | 'lost';

/** One harmonic as it reaches the listener. */
export interface HeardHarmonic {
  readonly n: number;
  readonly hz: number;
  readonly splDb: number;
  /** The greater of the threshold of hearing and the room's noise within its auditory filter. */
  readonly thresholdDb: number;
  readonly audible: boolean;
}

/** A note on a system. */
export interface Listening {
  readonly verdict: Heard;
  /**
   * By how much it is heard, dB, 0 where it only just is: of the fundamental where that is audible, else the lesser of
   * the best pair's two.
   */
  readonly marginDb: number;
  readonly harmonics: readonly HeardHarmonic[];
}

/** A harmonic is audible so much above what hides it. */
const AUDIBLE_DB = 3;
/** Peaks of the sine for which a system's playing level is given. */
const REFERENCE_DBFS = -18;
/** Harmonics that may imply a fundamental: among the first ten, no more than two apart. */
export const HIGHEST_OF_PAIR = 10;
const FURTHEST_APART = 2;
/** What has no amplitude at all. */
const NOTHING_DB = -300;

const commonDivisor = (a: number, b: number): number => (b === 0 ? a : commonDivisor(b, a % b));

/** Amplitude of a harmonic as a system plays it: of the middle where it is mono, else of both sides' powers. */
function amplitudeOn({ monoBelowHz }: PlaybackSystem, harmonics: Harmonics, n: number): number {
  const { f0Hz, left, right, middle } = harmonics;
  return n * f0Hz < monoBelowHz ? middle[n - 1] : Math.sqrt((left[n - 1] ** 2 + right[n - 1] ** 2) / 2);
}

/** Levels of all harmonics in dB SPL; where they stand above what the system gives, all are lowered by the excess. */
function levelsOn(system: PlaybackSystem, harmonics: Harmonics): number[] {
  const levels = Array.from(harmonics.left, (_, i) => {
    const amplitude = amplitudeOn(system, harmonics, i + 1);
    return amplitude > 0
      ? system.playsDb -
          REFERENCE_DBFS +
          gainToDb(amplitude) +
          responseDb(system.response, (i + 1) * harmonics.f0Hz)
      : NOTHING_DB;
  });
  const together = 10 * Math.log10(levels.reduce((sum, level) => sum + 10 ** (level / 10), 0));
  const excess = Math.max(0, together - system.mostDb);
  return levels.map((level) => level - excess);
}

/** The lesser margin of the best two harmonics that imply the fundamental; −Infinity where there are none. */
function bestPair(margins: readonly number[]): number {
  let best = -Infinity;
  for (let n = 2; n < HIGHEST_OF_PAIR; n++)
    for (let m = n + 1; m <= Math.min(n + FURTHEST_APART, HIGHEST_OF_PAIR, margins.length); m++)
      if (commonDivisor(n, m) === 1) best = Math.max(best, Math.min(margins[n - 1], margins[m - 1]));
  return best;
}

/**
 * What a listener gets of a note on a system: it is felt where its fundamental is audible; implied where it is not, but
 * two harmonics among the first ten are that have no common divisor and stand no more than two apart (the missing
 * fundamental, textbook psychoacoustics); else lost.
 */
export function listen(system: PlaybackSystem, harmonics: Harmonics): Listening {
  const noise = densitiesOf(system.noiseDb);
  const heard = levelsOn(system, harmonics).map((splDb, i): HeardHarmonic => {
    const hz = (i + 1) * harmonics.f0Hz;
    const thresholdDb = Math.max(hearingThresholdDb(hz), noiseWithinDb(noise, hz));
    return { n: i + 1, hz, splDb, thresholdDb, audible: splDb >= thresholdDb + AUDIBLE_DB };
  });
  const margins = heard.map(({ splDb, thresholdDb }) => splDb - thresholdDb - AUDIBLE_DB);
  const [fundamental] = margins;
  const pair = bestPair(margins);
  const verdict = fundamental >= 0 ? 'felt' : pair >= 0 ? 'implied' : 'lost';
  return { verdict, marginDb: verdict === 'felt' ? fundamental : pair, harmonics: heard };
}
