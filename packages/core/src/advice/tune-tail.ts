import type { SoundDocument } from '../document/index.js';
import type { Assets } from '../engine/index.js';
import { kickFigures } from '../figures/index.js';

/** Most semitones by which a kick is retuned before it is another kick (from the design). */
export const MOST_SEMITONES = 7;
/** A tail found this near to where it is wanted, in cents, is there; and the most tries that it takes. */
const THERE_CENTS = 0.5;
const TRIES = 4;

const tidy = (value: number) => Number(value.toFixed(3));

/** The kick with its tail at a frequency, where it was found at `fromHz`; null where it would go too far. */
export function withTailAt(document: SoundDocument, fromHz: number, toHz: number): SoundDocument | null {
  const semitones = 12 * Math.log2(toHz / fromHz);
  const { kick } = document;
  if (Math.abs(semitones) > MOST_SEMITONES + 1e-6) return null;
  if (kick.source === 'made') {
    // A drop that has not ended leaves the found tail above the set one: the two go together.
    const tailHz = tidy(kick.made.tailHz * (toHz / fromHz));
    return tailHz < 25 || tailHz > 120
      ? null
      : { ...document, kick: { ...kick, made: { ...kick.made, tailHz } } };
  }
  if (!kick.wav) return null;
  const retuneSt = tidy(kick.wav.retuneSt + semitones);
  return Math.abs(retuneSt) > 24 ? null : { ...document, kick: { ...kick, wav: { ...kick.wav, retuneSt } } };
}

/**
 * The same, put right until the tail is found where it is wanted: a drop that has not ended pulls it by a
 * share that changes with the tail. Of the tries the one that comes nearest is
 * taken, within a cent: where the pitch is found over another stretch from one try to the next, it does not
 * come nearer.
 */
export function withTailTuned(
  document: SoundDocument,
  fromHz: number,
  toHz: number,
  sampleRateHz: number,
  assets?: Assets,
): SoundDocument | null {
  let tuned = withTailAt(document, fromHz, toHz);
  let nearest = tuned;
  let least = Infinity;
  for (let tried = 0; tuned && tried < TRIES && least >= THERE_CENTS; tried++) {
    const { tail } = kickFigures(tuned, sampleRateHz, assets);
    if (!tail) break;
    const off = Math.abs(1200 * Math.log2(toHz / tail.hz));
    if (off < least) {
      least = off;
      nearest = tuned;
    }
    tuned = withTailAt(tuned, tail.hz, toHz);
  }
  return nearest;
}
