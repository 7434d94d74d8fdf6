import { known, unknown, type Figure } from './audio.js';
import { energyRatioDb, energyUpTo, type PowerSpectrum } from './power-spectrum.js';

/** Energy from 20 to 90 Hz over that from 90 to 300 Hz, dB: missing low mids show as much as mud (common practice). */
export const subToBodyDb = (spectrum: PowerSpectrum): Figure => energyRatioDb(spectrum, [20, 90], [90, 300]);

/** Energy from 200 to 400 Hz over that from 90 to 1600 Hz, dB (common practice). */
export const mudDb = (spectrum: PowerSpectrum): Figure => energyRatioDb(spectrum, [200, 400], [90, 1600]);

/** A place in the spectrum that sticks out, and by how much. */
export interface GlarePeak {
  readonly hz: number;
  readonly db: number;
}

export interface Glare {
  readonly db: Figure;
  /** What sticks out, most first; each at least half an octave from those before it. */
  readonly peaks: readonly GlarePeak[];
}

const FROM_HZ = 1000;
const TO_HZ = 8000;
/** Places that are looked at, by the octave. */
const PER_OCTAVE = 24;
/** A place stands out from here on, dB, and no nearer to another than this, in octaves. */
const STANDS_OUT_DB = 1;
const APART_OCT = 0.5;
const MOST_PEAKS = 5;
/** An octave so far under the whole is not heard for what sticks out of it, in power. */
const FLOOR = 1e-6;

/** A spectrum spread out over so many bins, so that harmonics that far apart count alike wherever a band begins. */
function spreadOut(power: Float64Array, bins: number): Float64Array {
  const n = power.length;
  const half = Math.max(0, bins >> 1);
  const out = new Float64Array(n);
  let running = 0;
  for (let k = 0; k < Math.min(half, n); k++) running += power[k];
  for (let k = 0; k < n; k++) {
    if (k + half < n) running += power[k + half];
    if (k - half > 0) running -= power[k - half - 1];
    out[k] = running / (2 * half + 1);
  }
  return out;
}

/**
 * What sticks out between 1 and 8 kHz: mean power in a sixth of an octave (at least 2·f0 wide) over that in an octave (at
 * least 4·f0) around it, at its greatest, dB. A plain saw reads under 1, a peak of 12 dB 4 to 5. (The design's measure.)
 *
 * @param f0Hz the lowest fundamental that sounds: a band is wide enough to hold two of its harmonics.
 */
export function glareOf({ power, hzPerBin }: PowerSpectrum, f0Hz: number): Glare {
  const even = spreadOut(power, Math.round(f0Hz / hzPerBin));
  const upTo = energyUpTo({ power: even, hzPerBin });
  const whole = upTo(even.length * hzPerBin);
  if (!(whole > 1e-10)) return { db: unknown('there is only silence'), peaks: [] };
  const meanAround = (hz: number, octaves: number, leastHz: number): { mean: number; sum: number } => {
    const wide = hz * (2 ** (octaves / 2) - 2 ** (-octaves / 2));
    const [from, to] =
      wide >= leastHz
        ? [hz * 2 ** (-octaves / 2), hz * 2 ** (octaves / 2)]
        : [hz - leastHz / 2, hz + leastHz / 2];
    // Parts of bins at both ends count in part, so that a band that slides does not jump.
    const sum = upTo(to) - upTo(from);
    return { mean: sum / (to - from), sum };
  };
  const count = Math.round(PER_OCTAVE * Math.log2(TO_HZ / FROM_HZ)) + 1;
  const places = Array.from({ length: count }, (_, i) => {
    const hz = FROM_HZ * 2 ** (i / PER_OCTAVE);
    const around = meanAround(hz, 1, 4 * f0Hz);
    const db =
      around.sum > FLOOR * whole
        ? 10 * Math.log10(Math.max(1e-12, meanAround(hz, 1 / 6, 2 * f0Hz).mean / around.mean))
        : -Infinity;
    return { hz, db };
  });
  const most = Math.max(...places.map(({ db }) => db));
  if (most === -Infinity) return { db: unknown('nothing sounds from 1 to 8 kHz'), peaks: [] };
  const peaks: GlarePeak[] = [];
  for (const place of [...places].sort((a, b) => b.db - a.db))
    if (
      peaks.length < MOST_PEAKS &&
      place.db >= STANDS_OUT_DB &&
      peaks.every(({ hz }) => Math.abs(Math.log2(hz / place.hz)) >= APART_OCT)
    )
      peaks.push(place);
  return { db: known(most), peaks };
}
