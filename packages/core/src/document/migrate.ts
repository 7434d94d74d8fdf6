import { backingShape } from './fit-shape.js';
import { kickShape } from './kick-shape.js';
import { filterShape } from '../kinds/filters/index.js';
import { layerShape } from './layer-shape.js';
import { unitShape } from '../kinds/units/index.js';
import { bandShape, chainFileShape } from './grit-shape.js';
import { anyDefault, defaultOf } from '../schema/default.js';
import type { SchemaNode } from '../schema/schema.js';
import { filled } from '../schema/since.js';
import { isTree, type Tree } from '../schema/tree.js';
import { cycleShape, moverShape } from '../kinds/movers/index.js';
import { DRAW_STEPS, FORMAT_VERSION, soundShape } from './shape.js';
import { systemShape, targetSetShape } from './systems-shape.js';
import { toneShape } from './tone-shape.js';

/** The resonance of version 2 that rings as a Q of version 1 did: 1/Q = √2·(1 − r)². */
export function resonanceFromQ(q: number): number {
  return Number((100 * (1 - Math.sqrt(1 / (q * Math.SQRT2)))).toFixed(2));
}

/** Version 1 had one tone of one kind and one filter a layer. */
function layerFrom1(layer: unknown): unknown {
  if (
    !isTree(layer) ||
    !isTree(layer.tone) ||
    !isTree(layer.filter) ||
    !isTree(layer.loudness) ||
    !isTree(layer.voice)
  )
    return layer;
  const { tone, filter, loudness, voice, ...rest } = layer;
  const { shape, widthPct, ...common } = tone;
  const { resonanceQ, ...filtered } = filter;
  const clean = defaultOf(layerShape);
  return {
    ...clean,
    ...rest,
    tones: [
      { ...defaultOf(toneShape), ...common, on: true, source: { kind: 'shape', shape, widthPct } },
      defaultOf(toneShape),
      defaultOf(toneShape),
    ],
    filters: [
      {
        ...defaultOf(filterShape),
        ...filtered,
        resonancePct:
          typeof resonanceQ === 'number' && resonanceQ > 0 ? resonanceFromQ(resonanceQ) : resonanceQ,
      },
      { ...defaultOf(filterShape), mode: 'high', cutoffHz: 120 },
    ],
    loudness: { ...clean.loudness, ...loudness },
    voice: { ...clean.voice, ...voice },
  };
}

/**
 * A link of version 1 under the names of version 2; the reach of a resonance becomes one that opens as far.
 */
function linkFrom1(link: unknown, layers: readonly unknown[]): unknown {
  if (!isTree(link) || typeof link.target !== 'string') return link;
  const match = /^layers\.([a-z0-9-]+)\.(tone|filter)\.(\w+)$/.exec(link.target);
  if (!match) return link;
  const [, id, part, field] = match;
  if (part === 'tone')
    return {
      ...link,
      target: `layers.${id}.tones.0.${field === 'widthPct' ? 'source.shape.widthPct' : field}`,
    };
  if (field !== 'resonanceQ') return { ...link, target: `layers.${id}.filters.0.${field}` };
  const layer = layers.find((candidate) => isTree(candidate) && candidate.id === id);
  const q =
    isTree(layer) && isTree(layer.filter) && typeof layer.filter.resonanceQ === 'number'
      ? layer.filter.resonanceQ
      : 0.71;
  const reach = typeof link.reachPct === 'number' ? link.reachPct : 0;
  const to = Math.min(20, Math.max(0.5, q * 40 ** (reach / 100)));
  return {
    ...link,
    target: `layers.${id}.filters.0.resonancePct`,
    reachPct: Number(((resonanceFromQ(to) - resonanceFromQ(q)) / 2).toFixed(2)),
  };
}

function from1(value: Tree): Tree {
  const layers = value.layers as unknown[];
  return {
    ...value,
    layers: layers.map(layerFrom1),
    links: Array.isArray(value.links) ? value.links.map((link) => linkFrom1(link, layers)) : value.links,
  };
}

/**
 * Version 6 kept the step in which the line is drawn under another name, the only step at a sound's own level: it
 * is told by its value.
 */
function from6(value: Tree): Tree {
  const steps: readonly unknown[] = DRAW_STEPS;
  const old = Object.keys(value).find((key) => !(key in soundShape.fields) && steps.includes(value[key]));
  if (old === undefined) return value;
  const { [old]: drawStep, ...rest } = value;
  return { ...rest, drawStep };
}

/** The clip's numbers by their names as a unit's, with the ranges that they had. */
const CLIP_RANGES = { driveDb: [0, 36], levelDb: [-24, 12] } as const;
const CLIP_ID = 'soft-clip-1';

/** A target in the clip of version 8 as one of its unit's, and how a share of its old range is one of its new. */
function clipTarget(target: unknown): { target: string; scale: number; start: number } | null {
  const field = typeof target === 'string' && /^grit\.clip\.(driveDb|levelDb)$/.exec(target)?.[1];
  if (!field) return null;
  const [min, max] = CLIP_RANGES[field as keyof typeof CLIP_RANGES];
  const row = unitShape.cases['soft clip'].fields[field as keyof typeof CLIP_RANGES];
  const span = row.max - row.min;
  return { target: `units.${CLIP_ID}.${field}`, scale: (max - min) / span, start: (min - row.min) / span };
}

const scaled = (value: unknown, by: number) => (typeof value === 'number' ? value * by : value);

function linkFrom8(link: unknown): unknown {
  const to = isTree(link) ? clipTarget(link.target) : null;
  if (!to || !isTree(link)) return link;
  const { target, scale } = to;
  return { ...link, target, reachPct: scaled(link.reachPct, scale), fromPct: scaled(link.fromPct, scale) };
}

function laneFrom8(lane: unknown): unknown {
  const to = isTree(lane) ? clipTarget(lane.target) : null;
  if (!to || !isTree(lane) || !Array.isArray(lane.points)) return lane;
  const { target, scale, start } = to;
  const points = lane.points.map((point: unknown) =>
    isTree(point) && typeof point.value === 'number'
      ? { ...point, value: start + scale * point.value }
      : point,
  );
  return { ...lane, target, points };
}

function macroFrom8(macro: unknown): unknown {
  if (!isTree(macro) || !Array.isArray(macro.switches)) return macro;
  const switches = macro.switches.map((each: unknown) =>
    isTree(each) && each.target === 'grit.clip.on' ? { ...each, target: `units.${CLIP_ID}.on` } : each,
  );
  return { ...macro, switches };
}

/** Version 8 had one soft clip above the clean path: it is the unit of the only band. */
function from8(value: Tree): Tree {
  if (!isTree(value.grit) || !isTree(value.grit.clip)) return value;
  const { clip, ...grit } = value.grit;
  const unit = { ...(anyDefault(unitShape.cases['soft clip']) as Tree), ...clip, id: CLIP_ID };
  const changed: Tree = {
    ...value,
    grit: { ...grit, bands: [{ ...(anyDefault(bandShape) as Tree), units: [unit] }] },
  };
  if (Array.isArray(value.links)) changed.links = value.links.map(linkFrom8);
  if (Array.isArray(value.lanes)) changed.lanes = value.lanes.map(laneFrom8);
  if (Array.isArray(value.macros)) changed.macros = value.macros.map(macroFrom8);
  return changed;
}

/** Kinds of parts that are kept in the library by themselves. */
export type PartKind = 'layer' | 'kick' | 'backing' | 'mover' | 'shape' | 'chain' | 'system' | 'targets';

const PARTS: Readonly<Record<PartKind, SchemaNode>> = {
  layer: layerShape,
  kick: kickShape,
  backing: backingShape,
  mover: moverShape,
  shape: cycleShape,
  chain: chainFileShape,
  system: systemShape,
  targets: targetSetShape,
};
/** Parts do not say of which version they are; this one kept the first. */
const PARTS_FROM = 3;

/** A kept part of an older version as one of the present version; what is wrong with it stays wrong. */
export function migratePart(kind: PartKind, value: unknown): unknown {
  return filled(PARTS[kind], value, PARTS_FROM);
}

/**
 * A document of an older version as one of the present version: what has been renamed or converted since by
 * hand, fields that are new from the shape. What is wrong with it stays wrong, so that validation
 * names it; a value that is no older document is returned as it is.
 */
export function migrate(value: unknown): unknown {
  if (!isTree(value) || !Array.isArray(value.layers)) return value;
  const { formatVersion } = value;
  if (typeof formatVersion !== 'number' || formatVersion >= FORMAT_VERSION) return value;
  const named = formatVersion === 1 ? from1(value) : formatVersion === 6 ? from6(value) : value;
  return {
    ...(filled(soundShape, from8(named), formatVersion) as Tree),
    formatVersion: FORMAT_VERSION,
  };
}
