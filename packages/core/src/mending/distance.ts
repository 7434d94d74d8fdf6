import { thirdsLoudnessDb } from '../measure/index.js';

/** Bands this far under the loudest are not heard beside it, dB. */
const RANGE_DB = 50;

/**
 * How far two long-term spectra by thirds of an octave lie apart once they are as loud as each other, dB: the root mean square
 * over the bands in which either is heard.
 */
export function spectralDistanceDb(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const raise = thirdsLoudnessDb(a) - thirdsLoudnessDb(b);
  const first = Array.from(a);
  const second = Array.from(b, (db) => db + raise);
  const least = Math.max(...first, ...second) - RANGE_DB;
  const apart = first.flatMap((db, i) =>
    Math.max(db, second[i]) < least ? [] : [Math.max(db, least) - Math.max(second[i], least)],
  );
  return Math.sqrt(apart.reduce((sum, db) => sum + db * db, 0) / Math.max(1, apart.length));
}
