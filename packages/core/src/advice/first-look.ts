import type { SoundDocument } from '../document/index.js';
import { DUCKING_FRAMES, renderLoop, runsFree, type Assets } from '../engine/index.js';
import { noteLevels, type NoteLevels } from '../figures/index.js';
import { lowBand } from '../lock/index.js';
import { middle } from '../measure/index.js';
import type { LineLows } from './measured-line.js';
import { LOW_RATE_HZ } from './turned-lows.js';

/** Kick and bass as far as Lock looks at them. */
export interface FirstLook extends LineLows {
  readonly locks: readonly NoteLevels[];
  /** Gain of the ducking over the loop, evenly spaced; null while it is off. */
  readonly ducking: { readonly rateHz: number; readonly gains: Float32Array } | null;
}

/**
 * What a sound is below Lock's frequency, from one render at a low rate and so many times sooner than all of
 * it is measured; its bass is the
 * unturned one of `turnedLowsSteps`. What a low rate changes of the lows (where clipping or FM folds back)
 * the whole measurement then puts right.
 */
export function firstLook(document: SoundDocument, assets?: Assets): FirstLook {
  const { kick, bass, bassBefore, ducking } = renderLoop(document, {
    sampleRateHz: LOW_RATE_HZ,
    assets,
    stems: 'none',
    brief: !runsFree(document),
  });
  const low = (audio: ArrayLike<number>) => lowBand(audio, LOW_RATE_HZ, document.lock.belowHz, true);
  const lows = { kick: low(middle([kick.left, kick.right])), bass: low(middle([bass.left, bass.right])) };
  return {
    ...lows,
    locks: noteLevels(document, lows.kick, lows.bass, low(bassBefore)),
    ducking: ducking && { rateHz: LOW_RATE_HZ / DUCKING_FRAMES, gains: ducking },
  };
}
