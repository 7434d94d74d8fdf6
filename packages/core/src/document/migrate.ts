import { defaultOf } from './defaults.js';
import { backingShape, duckShape, lockShape } from './fit-shape.js';
import { madeKickShape, wavKickShape } from './kick-shape.js';
import { feedbackShape, filterShape, layerShape } from './layer-shape.js';
import { toneShape } from './tone-shape.js';

type Tree = Record<string, unknown>;

const isTree = (value: unknown): value is Tree => typeof value === 'object' && value !== null && !Array.isArray(value);

/** The resonance of version 2 that rings as a Q of version 1 did: 1/Q = √2·(1 − r)². */
export function resonanceFromQ(q: number): number {
  return Number((100 * (1 - Math.sqrt(1 / (q * Math.SQRT2)))).toFixed(2));
}

/** Version 1 had one tone of one kind and one filter a layer. */
function layerFrom1(layer: unknown): unknown {
  if (!isTree(layer) || !isTree(layer.tone) || !isTree(layer.filter) || !isTree(layer.loudness) || !isTree(layer.voice)) return layer;
  const { tone, filter, loudness, voice, ...rest } = layer;
  const { shape, widthPct, ...common } = tone;
  const { resonanceQ, ...filtered } = filter;
  const clean = defaultOf(layerShape);
  return {
    ...clean, ...rest,
    tones: [{ ...defaultOf(toneShape), ...common, on: true, source: { kind: 'shape', shape, widthPct } }, defaultOf(toneShape), defaultOf(toneShape)],
    filters: [{ ...defaultOf(filterShape), ...filtered, resonancePct: typeof resonanceQ === 'number' && resonanceQ > 0 ? resonanceFromQ(resonanceQ) : resonanceQ }, { ...defaultOf(filterShape), mode: 'high', cutoffHz: 120 }],
    loudness: { ...clean.loudness, ...loudness },
    voice: { ...clean.voice, ...voice },
  };
}

/** A link of version 1 under the names of version 2; the reach of a resonance becomes one that opens as far. */
function linkFrom1(link: unknown, layers: readonly unknown[]): unknown {
  if (!isTree(link) || typeof link.target !== 'string') return link;
  const match = /^layers\.([a-z0-9-]+)\.(tone|filter)\.(\w+)$/.exec(link.target);
  if (!match) return link;
  const [, id, part, field] = match;
  if (part === 'tone') return { ...link, target: `layers.${id}.tones.0.${field === 'widthPct' ? 'source.shape.widthPct' : field}` };
  if (field !== 'resonanceQ') return { ...link, target: `layers.${id}.filters.0.${field}` };
  const layer = layers.find((candidate) => isTree(candidate) && candidate.id === id);
  const q = isTree(layer) && isTree(layer.filter) && typeof layer.filter.resonanceQ === 'number' ? layer.filter.resonanceQ : 0.71;
  const reach = typeof link.reachPct === 'number' ? link.reachPct : 0;
  const to = Math.min(20, Math.max(0.5, q * 40 ** (reach / 100)));
  return { ...link, target: `layers.${id}.filters.0.resonancePct`, reachPct: Number(((resonanceFromQ(to) - resonanceFromQ(q)) / 2).toFixed(2)) };
}

/** What a part of the document lacks is filled with what it is by default; what it has stays. */
const filled = (part: unknown, defaults: object): unknown => (isTree(part) ? { ...defaults, ...part } : part);

function from1(value: Tree): Tree {
  const layers = value.layers as unknown[];
  return {
    ...value,
    formatVersion: 2,
    layers: layers.map(layerFrom1),
    feedback: defaultOf(feedbackShape),
    links: Array.isArray(value.links) ? value.links.map((link) => linkFrom1(link, layers)) : value.links,
  };
}

/** Version 2 had a kick whose drop had one part, no backing parts, and ducking by beats on the level alone. */
function from2(value: Tree): Tree {
  const { kick } = value;
  return {
    ...value,
    formatVersion: 3,
    kick: isTree(kick) ? {
      ...kick, swingPct: 50, shared: false, made: filled(kick.made, defaultOf(madeKickShape)),
      wav: isTree(kick.wav) ? filled(kick.wav, defaultOf(wavKickShape)) : kick.wav,
    } : kick,
    backing: [],
    line: isTree(value.line) && Array.isArray(value.line.notes) ? { ...value.line, notes: value.line.notes.map((note) => filled(note, { carries: 'both' })) } : value.line,
    duck: filled(value.duck, defaultOf(duckShape)),
    lock: filled(value.lock, defaultOf(lockShape)),
  };
}

/** What version 3 did not have of a backing part: which sound it was rendered from. */
const backingFrom3 = (part: unknown): unknown => (isTree(part) && !('sound' in part) ? { ...part, sound: defaultOf(backingShape).sound } : part);

function from3(value: Tree): Tree {
  return { ...value, formatVersion: 4, backing: Array.isArray(value.backing) ? value.backing.map(backingFrom3) : value.backing };
}

/** What a layer of version 4 did not have: a phase that may begin anew with the kick. */
const layerFrom4 = (layer: unknown): unknown => (isTree(layer) && isTree(layer.voice) && !('restart' in layer.voice) ? { ...layer, voice: { ...layer.voice, restart: defaultOf(layerShape).voice.restart } } : layer);

/** What a kick of version 4 did not have: a fade at the end of a trimmed recording. */
const kickFrom4 = (kick: unknown): unknown => (isTree(kick) && isTree(kick.wav) && !('fadeMs' in kick.wav) ? { ...kick, wav: { ...kick.wav, fadeMs: defaultOf(wavKickShape).fadeMs } } : kick);

function from4(value: Tree): Tree {
  return { ...value, formatVersion: 5, kick: kickFrom4(value.kick), layers: (value.layers as unknown[]).map(layerFrom4) };
}

/** Version 5 did not keep the note grid with the sound. */
function from5(value: Tree): Tree {
  return { ...value, formatVersion: 6, noteGrid: '1/16' };
}

/** Kinds of parts that are kept in the library by themselves. */
export type PartKind = 'layer' | 'kick' | 'backing';

const PARTS: Readonly<Record<PartKind, (value: unknown) => unknown>> = { layer: layerFrom4, kick: kickFrom4, backing: backingFrom3 };

/** A kept part of an older version as one of the present version; what is wrong with it stays wrong. */
export function migratePart(kind: PartKind, value: unknown): unknown {
  return PARTS[kind](value);
}

/**
 * A document of an older version as one of the present version. What is wrong with it stays wrong, so that validation names it; a value
 * that is no older document is returned as it is.
 */
export function migrate(value: unknown): unknown {
  if (!isTree(value) || !Array.isArray(value.layers)) return value;
  const second = value.formatVersion === 1 ? from1(value) : value;
  const third = second.formatVersion === 2 ? from2(second) : second;
  const fourth = third.formatVersion === 3 ? from3(third) : third;
  const fifth = fourth.formatVersion === 4 ? from4(fourth) : fourth;
  return fifth.formatVersion === 5 ? from5(fifth) : fifth;
}
