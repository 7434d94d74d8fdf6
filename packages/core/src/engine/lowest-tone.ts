import type { Layer, SoundDocument } from '../document/index.js';

/** The tone by which a sound's lowest pitch goes: the first that sounds of the first Sub that does, else of the first layer. */
export function lowestTone(document: SoundDocument): Layer['tones'][number] {
  const layer = document.layers.find((candidate) => candidate.role === 'sub' && candidate.on) ?? document.layers[0];
  return layer.tones.find((tone) => tone.on && tone.pitchIn === 'note') ?? layer.tones[0];
}
