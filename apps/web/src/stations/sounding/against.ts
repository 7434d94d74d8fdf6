import { THIRD_OCTAVES_HZ, thirdsLoudnessDb } from '@abyssal/core';

/** Two long-term spectra set against each other, the second as loud as the first. */
export interface Against {
  readonly hz: readonly number[];
  readonly a: readonly number[];
  readonly b: readonly number[];
  /** By how much the second was raised, dB. */
  readonly matchedDb: number;
}

/** Levels this far under the loudest are not compared, dB: nobody hears them beside the rest. */
const FLOOR_DB = 70;

const powerSum = (levels: readonly number[]) =>
  10 * Math.log10(levels.reduce((sum, db) => sum + 10 ** (db / 10), 0));

/** Spectra by thirds of an octave against each other, as they are or summed to octaves. */
export function against(a: ArrayLike<number>, b: ArrayLike<number>, by: 'thirds' | 'octaves'): Against {
  const matchedDb = thirdsLoudnessDb(a) - thirdsLoudnessDb(b);
  const own = Array.from(a);
  const other = Array.from(b, (db) => db + matchedDb);
  if (by === 'thirds') return { hz: THIRD_OCTAVES_HZ, a: own, b: other, matchedDb };
  // The middle third of each octave stands at its nominal centre: 31.5, 63, 125 Hz …
  const centres = THIRD_OCTAVES_HZ.flatMap((_, i) =>
    i % 3 === 1 && i + 1 < THIRD_OCTAVES_HZ.length ? [i] : [],
  );
  const octave = (levels: readonly number[], i: number) => powerSum(levels.slice(i - 1, i + 2));
  return {
    hz: centres.map((i) => THIRD_OCTAVES_HZ[i]),
    a: centres.map((i) => octave(own, i)),
    b: centres.map((i) => octave(other, i)),
    matchedDb,
  };
}

/** What the second has more than the first in each band, dB; null where both are too soft to matter. */
export function differences({ a, b }: Against): (number | null)[] {
  const least = Math.max(...a, ...b) - FLOOR_DB;
  return a.map((db, i) => (Math.max(db, b[i]) < least ? null : Math.max(b[i], least) - Math.max(db, least)));
}
