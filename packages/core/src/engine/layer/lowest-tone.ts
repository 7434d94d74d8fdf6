import type { Layer, SoundDocument } from '../../document/index.js';

/** The layer by which a sound's lowest pitch goes: the first Sub that sounds, else the first layer. */
export function lowestLayer({ layers }: SoundDocument): Layer {
  return layers.find((candidate) => candidate.role === 'sub' && candidate.on) ?? layers[0];
}

/** The tone by which a sound's lowest pitch goes: the first that sounds of its lowest layer. */
export function lowestTone(document: SoundDocument): Layer['tones'][number] {
  const layer = lowestLayer(document);
  return layer.tones.find((tone) => tone.on && tone.pitchIn === 'note') ?? layer.tones[0];
}
