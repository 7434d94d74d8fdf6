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
