import { DEPTH_BANDS_HZ } from './constant-q.js';

/** Bands of the depth chart in a third of an octave. */
const THIRD = 8;
/**
 * The bass counts as masked in a band where it stands this much under the other, in dB (the design's
 * measure).
 */
const UNDER_DB = 6;

/** Energies in third-octaves of levels by depth in dB. */
function thirds(levels: ArrayLike<number>): Float64Array {
  const energies = new Float64Array(Math.ceil(DEPTH_BANDS_HZ.length / THIRD));
  for (let i = 0; i < DEPTH_BANDS_HZ.length; i++) energies[Math.floor(i / THIRD)] += 10 ** (levels[i] / 10);
  return energies;
}

/** What another part hides of a bass. */
export interface Masking {
  /** Share of the bass's energy, 0 to 1; null where the bass is silent. */
  readonly share: number | null;
  /** Stretches of depth in which the bass is hidden and would be heard for the rest of it, in hertz. */
  readonly hidden: readonly (readonly [number, number])[];
}

/** A band so far under the bass's loudest is not missed, dB. */
const MISSED_DB = 36;

/** How much another part hides of a bass, and where; levels by depth in dB, at `DEPTH_BANDS_HZ`. */
export function maskingOf(bass: ArrayLike<number>, other: ArrayLike<number>): Masking {
  const b = thirds(bass);
  const o = thirds(other);
  const least = Math.max(...b) * 10 ** (-MISSED_DB / 10);
  const hidden: [number, number][] = [];
  b.forEach((energy, k) => {
    if (!(energy > least && energy < o[k] * 10 ** (-UNDER_DB / 10))) return;
    const from = 20 * 2 ** (k / 3);
    const last = hidden.at(-1);
    if (last && Math.abs(last[1] - from) < 0.01 * from) last[1] = from * 2 ** (1 / 3);
    else hidden.push([from, from * 2 ** (1 / 3)]);
  });
  return { share: maskedShare(bass, other), hidden };
}

/**
 * Share of a bass's energy, 0 to 1, that lies more than 6 dB under another part in its third of an octave;
 * both as levels by depth in dB, at
 * `DEPTH_BANDS_HZ`. Null where the bass is silent.
 */
export function maskedShare(bass: ArrayLike<number>, other: ArrayLike<number>): number | null {
  const b = thirds(bass);
  const o = thirds(other);
  const all = b.reduce((sum, energy) => sum + energy, 0);
  if (!(all > 1e-12)) return null;
  return b.reduce((sum, energy, k) => sum + (energy < o[k] * 10 ** (-UNDER_DB / 10) ? energy : 0), 0) / all;
}
