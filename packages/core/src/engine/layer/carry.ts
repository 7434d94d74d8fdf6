import { HIGHEST_NOTE, LOWEST_NOTE, type Layer, type SoundDocument } from '../../document/index.js';
import { KEY_NAMES, noteToHz } from '../../music/index.js';
import { dropEndMs, dropHz } from '../kick/drop.js';

/** Longest drop that is carried, in ms: the longest that a kick can have. */
export const MOST_CARRIED_MS = 2000;

/**
 * Whether a layer's own oscillator carries the kick's drop where there is one oscillator for both: Sub does,
 * or the deepest layer where there is no Sub.
 */
export function carriesKick({ kick, layers }: SoundDocument, layer: Layer): boolean {
  if (!kick.shared || !kick.on) return false;
  const subs = layers.filter(({ on, role }) => on && role === 'sub');
  return subs.length > 0 ? subs.includes(layer) : layers[0] === layer;
}

/**
 * The drop as semitones above the tail, a value each ms after the number of values in the first place; a wave
 * that turns back stands still there.
 */
export function carriedDrop({ kick }: SoundDocument): Float64Array {
  const { made } = kick;
  const count = Math.min(MOST_CARRIED_MS, Math.ceil(dropEndMs(made)) + 1);
  const curve = new Float64Array(MOST_CARRIED_MS + 2);
  curve[0] = count;
  for (let ms = 0; ms < count; ms++)
    curve[ms + 1] = 12 * Math.log2(Math.max(1, dropHz(made, ms)) / made.tailHz);
  return curve;
}

/**
 * The note that stands for the kick where no note of the line does: the root of the key, in the octave
 * nearest to the tail; `octave` and `semitones` are those of the lowest tone.
 */
export function carriedPitch({ kick, ground }: SoundDocument, octave: number, semitones: number): number {
  const root = 24 + KEY_NAMES.indexOf(ground.key);
  const pitch =
    root +
    12 * Math.round(Math.log2(kick.made.tailHz / noteToHz(root, ground.a4Hz))) -
    12 * octave -
    semitones;
  return Math.max(LOWEST_NOTE, Math.min(HIGHEST_NOTE, pitch));
}
