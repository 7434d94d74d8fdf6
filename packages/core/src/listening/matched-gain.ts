import { DEPTH_BANDS_HZ, kWeightingDb } from '../measure/index.js';
import { responseDb, type PlaybackSystem } from '../translation/index.js';

/** Most that a system is raised or lowered to be as loud as the sound by itself, dB. */
const MOST_DB = 24;

/**
 * Gain in dB that makes a sound through a system as loud (K-weighted, BS.1770) as it is by itself: from its levels by depth in
 * dB, at `DEPTH_BANDS_HZ`.
 */
export function matchedGainDb(levels: ArrayLike<number>, { response }: PlaybackSystem): number {
  let own = 0;
  let through = 0;
  DEPTH_BANDS_HZ.forEach((hz, i) => {
    const power = 10 ** ((levels[i] + kWeightingDb(hz)) / 10);
    own += power;
    through += power * 10 ** (responseDb(response, hz) / 10);
  });
  if (!(through > 1e-12)) return 0;
  return Math.min(MOST_DB, Math.max(-MOST_DB, 10 * Math.log10(own / through)));
}
