import { keyOf, soundShape, type SoundDocument } from '../../document/index.js';
import { carriesKick } from '../layer/carry.js';
import { isStereo, linkedIn } from '../layer/layer-player.js';
import { lowestTone } from '../layer/lowest-tone.js';
import { mayStandAlone } from '../tones/tone-set.js';

const all = (document: SoundDocument, what: Parameters<typeof keyOf>[2]) => keyOf(soundShape, document, what);
/** What of the kick counts where one oscillator carries both. */
const carried = (document: SoundDocument) =>
  document.kick.on && document.kick.shared ? all(document, 'carried') : null;

/** What of a document its list of events depends on, as a text: while it stays the same the list does. */
export function eventKey(document: SoundDocument): string {
  return JSON.stringify([all(document, 'events'), carried(document)]);
}

/**
 * What of a document needs an instrument of its own, as a text; numbers that can move while it sounds are
 * left out.
 */
export function structureOf(document: SoundDocument): string {
  const { layers, duck } = document;
  return JSON.stringify([
    all(document, 'instrument'),
    // What a number or a link makes of a layer beside its own settings.
    layers.map((layer) => [isStereo(document, layer), mayStandAlone(layer, linkedIn(document, layer))]),
    duck.on && duck.hard ? all(document, 'hard hold') : null,
  ]);
}

/**
 * What the render of a layer depends on, as a text: while it stays the same a render that was made before
 * serves.
 */
export function layerKey(document: SoundDocument, index: number, ...made: readonly number[]): string {
  const layer = document.layers[index];
  const links = document.links.filter((link) => link.target.startsWith(`layers.${layer.id}.`));
  const movers = document.movers.filter((mover) => links.some((link) => link.mover === mover.id));
  const lowest = lowestTone(document);
  return JSON.stringify([
    layer,
    links,
    movers,
    document.movers.length,
    all(document, 'layers'),
    carried(document),
    carriesKick(document, layer),
    lowest.octave,
    lowest.semitones,
    index,
    ...made,
  ]);
}
