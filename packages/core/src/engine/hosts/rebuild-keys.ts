import {
  bankOf,
  keyOf,
  linksInto,
  MACRO_IDS,
  netOf,
  resolveTarget,
  soundShape,
  type SoundDocument,
  type UnitPlace,
} from '../../document/index.js';
import { moverKindOf } from '../../kinds/movers/index.js';
import { carriesKick } from '../layer/carry.js';
import { carriedApart, isStereo, linkedIn } from '../layer/layer-sides.js';
import { lowestTone } from '../layer/lowest-tone.js';
import { listensTo } from '../mix/listening.js';
import { mayStandAlone } from '../tones/tone-set.js';
import { heardByUnits } from '../sides/overheard.js';

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
    layers.map((layer) => [
      isStereo(document, layer),
      carriedApart(document, layer),
      mayStandAlone(layer, linkedIn(document, layer)),
    ]),
    listensTo(document),
    duck.on && duck.hard ? all(document, 'hard hold') : null,
  ]);
}

/**
 * All that moves a layer, or the mix where it is null: links and what they depend on, macros that switch, lanes, and what
 * movers hear.
 */
function moving(document: SoundDocument, layerId: string | null): unknown {
  const into = linksInto(document, layerId);
  const net = netOf(document, into);
  const sources = net.flatMap(({ kind, index }) => (kind === 'source' ? [index] : []));
  const movers = sources.flatMap((index) => document.movers.slice(index, index + 1));
  const ids = new Set(
    sources.map((index) => document.movers.at(index)?.id ?? MACRO_IDS[index - document.movers.length]),
  );
  const links = document.links.filter((link, index) => {
    const target = resolveTarget(document, link.target);
    if (into.includes(index)) return true;
    if (target?.part === 'mover' || target?.part === 'macro') return ids.has(target.id!);
    return target?.part === 'link' && net.some(({ kind }) => kind === 'reach');
  });
  const lanes = document.lanes.filter(({ target }) => {
    const found = resolveTarget(document, target);
    if (!found) return false;
    return bankOf(document, found) === layerId || (found.id !== null && ids.has(found.id));
  });
  const hears = movers.flatMap((mover) => moverKindOf(mover.kind).hears?.(mover) ?? []);
  const switching = document.macros.some(({ switches }) => switches.length > 0);
  return [
    links,
    movers,
    document.macros.filter((_, m) => switching || ids.has(MACRO_IDS[m])),
    lanes,
    movers.length > 0 ? document.ground.key : null,
    hears.includes('kick') ? document.kick : null,
    hears.some((name) => name !== 'kick') ? document.backing : null,
    movers.some((mover) => moverKindOf(mover.kind).struckByKick?.(mover)) ? document.kick : null,
  ];
}

/** What units hear beside what goes through them, as far as it is in the document. */
function heardIn(document: SoundDocument, units: Parameters<typeof heardByUnits>[0]): unknown {
  const heard = heardByUnits(units);
  return [
    heard.includes('kick') ? document.kick : null,
    heard.some((name) => name !== 'kick') ? document.backing : null,
  ];
}

/**
 * What the render of a layer depends on, as a text: while it stays the same a render that was made before
 * serves.
 */
export function layerKey(document: SoundDocument, index: number, ...made: readonly number[]): string {
  const layer = document.layers[index];
  const lowest = lowestTone(document);
  return JSON.stringify([
    layer,
    moving(document, layer.id),
    all(document, 'layers'),
    carried(document),
    carriesKick(document, layer),
    heardIn(document, layer.chain),
    lowest.octave,
    lowest.semitones,
    index,
    ...made,
  ]);
}

/**
 * What a chain of grit gives depends on, by its place, as a text: all that goes into it, its units and what moves them.
 * What goes into all of them is looked for once.
 */
export function chainKeys(document: SoundDocument): (place: UnitPlace) => string {
  const { layers, grit, feedback, ground } = document;
  const { cleanPath, bands, after } = grit;
  const goesIn = JSON.stringify([
    layers.map((_, index) => layerKey(document, index)),
    all(document, 'layers'),
    moving(document, null),
    ground,
    feedback,
    [cleanPath.on, cleanPath.frequencyHz],
    bands.map(({ id, fromHz }) => [id, fromHz]),
  ]);
  return (place) => {
    const units =
      place.in === 'clean path'
        ? cleanPath.units
        : place.in === 'band'
          ? bands.find(({ id }) => id === place.id)!.units
          : // Everything goes into the one behind the sum.
            [...cleanPath.units, ...bands.flatMap((band) => band.units), ...after];
    return goesIn + JSON.stringify([place.in === 'after' ? grit : units, heardIn(document, units)]);
  };
}
