import { loopTicks, textFault } from '../units/index.js';
import { backingShape } from './fit-shape.js';
import {
  CHAIN_FORMAT,
  chainFileShape,
  GRIT_FORMAT,
  gritFileShape,
  type ChainFile,
  type GritFile,
} from './grit-shape.js';
import { kickShape, type Kick } from './kick-shape.js';
import { layerShape, type Layer } from './layer-shape.js';
import {
  checkCycle,
  cycleShape,
  MACRO_IDS,
  moverKindOf,
  moverShape,
  type Cycle,
  type Mover,
} from '../kinds/movers/index.js';
import { migrate, migratePart } from './migrate.js';
import { MOST_BANDS } from '../schema/bounds.js';
import { unitKindOf } from '../kinds/units/index.js';
import { circleIn, sourceIndex } from './net.js';
import { resolveTarget } from './parameters.js';
import { switchedBy } from './switches.js';
import { chainPath, chainsOf } from './units.js';
import { caseOf, type SchemaNode } from '../schema/schema.js';
import { isTree } from '../schema/tree.js';
import { FORMAT, FORMAT_VERSION, soundShape, type SoundDocument } from './shape.js';
import {
  SYSTEM_IDS,
  systemShape,
  targetSetShape,
  type OwnSystem,
  type Systems,
  type TargetSet,
} from './systems-shape.js';

/**
 * One thing wrong with a document: where (`layers[1].filter.cutoffHz`) and what, in words that follow the
 * path.
 */
export interface Problem {
  readonly path: string;
  readonly message: string;
}

/** A document that cannot be taken, with every problem found in it. */
export class DocumentError extends Error {
  override readonly name = 'DocumentError';
  constructor(readonly problems: readonly Problem[]) {
    const [first] = problems;
    const more = problems.length > 1 ? ` (and ${problems.length - 1} more)` : '';
    super(`${first.path ? `${first.path}: ` : ''}${first.message}${more}`);
  }
}

const MOST_PROBLEMS = 50;

function describe(value: unknown): string {
  if (value === null) return 'null';
  if (Array.isArray(value)) return 'a list';
  if (typeof value === 'object') return 'an object';
  if (typeof value === 'string') return JSON.stringify(value.length > 40 ? `${value.slice(0, 40)}…` : value);
  return typeof value === 'number' || typeof value === 'boolean' ? value.toString() : typeof value;
}

function check(node: SchemaNode, value: unknown, path: string, problems: Problem[]): void {
  if (problems.length >= MOST_PROBLEMS) return;
  const fail = (message: string) => {
    problems.push({ path, message });
  };
  switch (node.kind) {
    case 'number':
      if (typeof value !== 'number') return fail(`${describe(value)} is not a number`);
      if (!Number.isFinite(value)) return fail(`${value} is not a finite number`);
      if (value < node.min) return fail(`${value} is below ${node.min}`);
      if (value > node.max) return fail(`${value} is above ${node.max}`);
      if (node.whole && !Number.isInteger(value)) return fail(`${value} is not a whole number`);
      return;
    case 'text':
      if (typeof value !== 'string') return fail(`${describe(value)} is not a text`);
      if (value.length > node.maxLength) return fail(`the text is longer than ${node.maxLength} characters`);
      if (textFault(value)) return fail(`the text ${textFault(value)}`);
      if (node.pattern && !node.pattern.test(value))
        return fail(`${describe(value)} is not of the form ${node.pattern.source}`);
      return;
    case 'flag':
      return typeof value === 'boolean' ? undefined : fail(`${describe(value)} is neither true nor false`);
    case 'choice':
      return (node.options as readonly unknown[]).includes(value)
        ? undefined
        : fail(`${describe(value)} is none of ${node.options.join(', ')}`);
    case 'literal':
      return value === node.value ? undefined : fail(`${describe(value)} is not ${describe(node.value)}`);
    case 'nullable':
      if (value !== null) check(node.of, value, path, problems);
      return;
    case 'list': {
      if (!Array.isArray(value)) return fail(`${describe(value)} is not a list`);
      if (value.length < node.min)
        return fail(`the list has ${value.length} entries, fewer than ${node.min}`);
      if (value.length > node.max) return fail(`the list has ${value.length} entries, more than ${node.max}`);
      value.forEach((entry, i) => check(node.of, entry, `${path}[${i}]`, problems));
      if (node.unique) {
        const seen = new Set<unknown>();
        value.forEach((entry, i) => {
          const key = isTree(entry) ? entry[node.unique!] : undefined;
          if (seen.has(key))
            problems.push({
              path: `${path}[${i}].${node.unique}`,
              message: `${describe(key)} appears twice`,
            });
          seen.add(key);
        });
      }
      return;
    }
    case 'variant': {
      if (!isTree(value)) return fail(`${describe(value)} is not an object`);
      const shape = caseOf(node, value.kind);
      if (!shape)
        return fail(`kind ${describe(value.kind)} is none of ${Object.keys(node.cases).join(', ')}`);
      return check(shape, value, path, problems);
    }
    case 'object': {
      if (!isTree(value))
        return fail(value === undefined ? 'is missing' : `${describe(value)} is not an object`);
      for (const key of Object.keys(value)) {
        if (problems.length >= MOST_PROBLEMS) return;
        if (!Object.hasOwn(node.fields, key)) {
          const known = describe(key).slice(1, -1);
          problems.push({ path: path ? `${path}.${known}` : known, message: 'is not a known field' });
        }
      }
      for (const [key, field] of Object.entries(node.fields)) {
        const at = path ? `${path}.${key}` : key;
        if (!Object.hasOwn(value, key)) problems.push({ path: at, message: 'is missing' });
        else check(field, value[key], at, problems);
      }
    }
  }
}

/** What no single field of a layer can tell. */
function checkLayer(layer: Layer, at: string, problems: Problem[]): void {
  layer.tones.forEach(({ source }, t) => {
    const path = `${at}tones[${t}].source`;
    if (source.kind === 'harmonics' && source.pocket.fromHz > source.pocket.toHz)
      problems.push({
        path: `${path}.pocket`,
        message: `begins at ${source.pocket.fromHz} Hz, above its end at ${source.pocket.toHz} Hz`,
      });
    if (source.kind !== 'sample') return;
    source.zones.forEach((zone, z) => {
      const fail = (message: string) => {
        problems.push({ path: `${path}.zones[${z}]`, message });
      };
      if (zone.lowPitch > zone.highPitch) fail('its lowest note is above its highest');
      if (zone.lowVelocity > zone.highVelocity) fail('its lowest velocity is above its highest');
      if (zone.loop && zone.loop.from >= zone.loop.to) fail('its loop ends before it begins');
    });
  });
}

/** What links, macros and lanes say of each other and of the rest. */
function checkMoving(sound: SoundDocument, problems: Problem[]): void {
  const fail = (path: string, message: string) => {
    problems.push({ path, message });
  };
  const noTarget = (target: string) => `${describe(target)} is no parameter that movers may reach`;
  sound.links.forEach((link, i) => {
    if (sourceIndex(sound, link.mover) < 0)
      fail(`links[${i}].mover`, `there is no mover ${describe(link.mover)}`);
    if (!resolveTarget(sound, link.target)) fail(`links[${i}].target`, noTarget(link.target));
  });
  const circle = circleIn(sound);
  if (circle) fail('links', `go round in a circle: ${circle}`);
  sound.macros.forEach(({ switches }, m) => {
    switches.forEach(({ target }, s) => {
      if (!switchedBy(sound, target))
        fail(`macros[${m}].switches[${s}].target`, `${describe(target)} is nothing that a macro switches`);
    });
  });
  sound.lanes.forEach(({ target, points }, l) => {
    const found = resolveTarget(sound, target);
    if (!found || found.part === 'link') fail(`lanes[${l}].target`, noTarget(target));
    if (points.some((point, k) => k > 0 && point.tick < points[k - 1].tick))
      fail(`lanes[${l}].points`, 'must rise in position');
  });
}

/** What bands and units say of each other and of the rest. */
function checkGrit(sound: SoundDocument, problems: Problem[]): void {
  const fail = (path: string, message: string) => {
    problems.push({ path, message });
  };
  const { bands, cleanPath } = sound.grit;
  if (bands.length + (cleanPath.on ? 1 : 0) > MOST_BANDS)
    fail('grit.bands', `are ${bands.length} beside the clean path, more than ${MOST_BANDS} in all`);
  let below = cleanPath.on ? cleanPath.frequencyHz : 0;
  bands.forEach(({ fromHz }, b) => {
    if (b === 0) return;
    if (fromHz <= below) fail(`grit.bands[${b}].fromHz`, `${fromHz} is not above ${below}`);
    below = fromHz;
  });
  const seen = new Set<string>();
  chainsOf(sound).forEach(({ place, units }) => {
    const at = chainPath(sound, place);
    units.forEach((unit, u) => {
      if (seen.has(unit.id)) fail(`${at}[${u}].id`, `${describe(unit.id)} appears twice`);
      seen.add(unit.id);
      const kind = unitKindOf(unit.kind);
      const hears = kind.hears?.(unit) ?? null;
      if (hears === null || hears === 'kick') return;
      const band = place.in === 'band' && bands.some(({ id }) => id === hears);
      if (!band && !sound.backing.some(({ id }) => id === hears))
        fail(`${at}[${u}].${kind.hearsIn ?? 'kind'}`, `there is no backing part or band ${describe(hears)}`);
    });
  });
}

/** What no single field can tell: references, order, and what must stand within the loop. */
function checkWhole(sound: SoundDocument, problems: Problem[]): void {
  const end = loopTicks(sound.ground.bars);
  sound.line.notes.forEach((note, i) => {
    if (note.tick + note.ticks > end)
      problems.push({
        path: `line.notes[${i}]`,
        message: `ends at tick ${note.tick + note.ticks}, after the loop's ${end}`,
      });
  });
  sound.kick.hits.forEach((hit, i) => {
    if (hit.tick >= end)
      problems.push({
        path: `kick.hits[${i}].tick`,
        message: `${hit.tick} is not before the loop's end at ${end}`,
      });
  });
  if (sound.kick.source === 'wav' && sound.kick.wav === null)
    problems.push({ path: 'kick.wav', message: 'is missing, though the kick is a WAV' });
  if (sound.kick.wav && sound.kick.wav.startMs >= sound.kick.wav.endMs)
    problems.push({
      path: 'kick.wav',
      message: `is trimmed to nothing: from ${sound.kick.wav.startMs} to ${sound.kick.wav.endMs} ms`,
    });
  sound.backing.forEach((part, i) => {
    if (part.startTick >= end)
      problems.push({
        path: `backing[${i}].startTick`,
        message: `${part.startTick} is not before the loop's end at ${end}`,
      });
  });
  if (sound.duck.from !== 'kick' && !sound.backing.some(({ id }) => id === sound.duck.from))
    problems.push({ path: 'duck.from', message: `there is no backing part ${describe(sound.duck.from)}` });
  sound.layers.forEach((layer, i) => {
    checkLayer(layer, `layers[${i}].`, problems);
  });
  checkGrit(sound, problems);
  checkSystems(sound.systems, 'systems.', problems);
  checkMoving(sound, problems);
  sound.movers.forEach((mover, i) => {
    const fail = (field: string, message: string) => {
      problems.push({ path: `movers[${i}].${field}`, message });
    };
    const kind = moverKindOf(mover.kind);
    kind.check?.(mover, fail);
    const hears = kind.hears?.(mover) ?? 'kick';
    if (hears !== 'kick' && !sound.backing.some(({ id }) => id === hears))
      fail(kind.hearsIn ?? 'kind', `there is no backing part ${describe(hears)}`);
    if (MACRO_IDS.includes(mover.id)) fail('id', `${describe(mover.id)} is the name of a macro`);
  });
}

/** Every problem of a value taken as a sound document of this version; empty when it is valid. */
export function findProblems(value: unknown): Problem[] {
  if (!isTree(value)) return [{ path: '', message: 'this is not a sound: a sound is a JSON object' }];
  if (value.format !== FORMAT)
    return [{ path: 'format', message: `this is not a sound: ${describe(value.format)} is not "${FORMAT}"` }];
  const version = value.formatVersion;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    return [{ path: 'formatVersion', message: `${describe(version)} is no version of the sound file` }];
  }
  if (version > FORMAT_VERSION) {
    return [
      {
        path: 'formatVersion',
        message: `the sound is of version ${version}; this program reads up to ${FORMAT_VERSION}. Open it with a newer Abyssal`,
      },
    ];
  }
  const outgrown = tooLong(value);
  return outgrown.length > 0 ? outgrown : problemsOf(migrate(value));
}

/** Lists of a sound of any version that are too long: told before anything is done for each of their entries. */
function tooLong(value: Record<string, unknown>): Problem[] {
  return Object.entries<SchemaNode>(soundShape.fields).flatMap(([path, node]): Problem[] => {
    const list = value[path];
    return node.kind === 'list' && Array.isArray(list) && list.length > node.max
      ? [{ path, message: `the list has ${list.length} entries, more than ${node.max}` }]
      : [];
  });
}

/**
 * Every problem of a kick by itself, as it is kept in the library, also by version 4; empty when it is valid.
 */
export function findKickProblems(value: unknown): Problem[] {
  const problems: Problem[] = [];
  check(kickShape, migratePart('kick', value), '', problems);
  if (problems.length === 0 && (value as Kick).source === 'wav' && (value as Kick).wav === null)
    problems.push({ path: 'wav', message: 'is missing, though the kick is a WAV' });
  return problems;
}

/**
 * Every problem of a backing part by itself, as it is kept in the library, also by version 3; empty when it
 * is valid.
 */
export function findBackingProblems(value: unknown): Problem[] {
  const problems: Problem[] = [];
  check(backingShape, migratePart('backing', value), '', problems);
  return problems;
}

/**
 * Every problem of a layer by itself, as it is kept in the library, also by version 4; empty when it is
 * valid.
 */
export function findLayerProblems(value: unknown): Problem[] {
  const problems: Problem[] = [];
  const layer = migratePart('layer', value);
  check(layerShape, layer, '', problems);
  if (problems.length === 0) checkLayer(layer as Layer, '', problems);
  return problems;
}

/** Every problem of a mover by itself, as it is kept in the library; empty when it is valid. */
export function findMoverProblems(value: unknown): Problem[] {
  const problems: Problem[] = [];
  const mover = migratePart('mover', value);
  check(moverShape, mover, '', problems);
  if (problems.length > 0) return problems;
  moverKindOf((mover as Mover).kind).check?.(mover as Mover, (path, message) => {
    problems.push({ path, message });
  });
  return problems;
}

/** Every problem of a cycle of a wobble by itself, as it is kept in the library; empty when it is valid. */
export function findShapeProblems(value: unknown): Problem[] {
  const problems: Problem[] = [];
  check(cycleShape, value, '', problems);
  if (problems.length === 0)
    checkCycle(value as Cycle, (path, message) => {
      problems.push({ path, message });
    });
  return problems;
}

/** Problems of a playback system: its response runs from low to high. */
function checkSystem({ response }: OwnSystem, path: string, problems: Problem[]): void {
  const sinks = response.findIndex(({ hz }, i) => i > 0 && hz <= response[i - 1].hz);
  if (sinks >= 0)
    problems.push({
      path: `${path}response[${sinks}].hz`,
      message: `${response[sinks].hz} is not above ${response[sinks - 1].hz}`,
    });
}

function checkSystems({ own, leftOut }: Systems, path: string, problems: Problem[]): void {
  own.forEach((system, i) => {
    checkSystem(system, `${path}own[${i}].`, problems);
    if ((SYSTEM_IDS as readonly string[]).includes(system.id))
      problems.push({
        path: `${path}own[${i}].id`,
        message: `${describe(system.id)} is a system of the program's`,
      });
  });
  leftOut.forEach((id, i) => {
    if (!(SYSTEM_IDS as readonly string[]).includes(id) && !own.some((system) => system.id === id))
      problems.push({ path: `${path}leftOut[${i}]`, message: `there is no system ${describe(id)}` });
  });
}

/** Every problem of a playback system by itself, as it is kept in the library; empty when it is valid. */
export function findSystemProblems(value: unknown): Problem[] {
  const problems: Problem[] = [];
  const system = migratePart('system', value);
  check(systemShape, system, '', problems);
  if (problems.length === 0) checkSystem(system as OwnSystem, '', problems);
  return problems;
}

/** Every problem of a set of targets by itself, as it is kept in the library; empty when it is valid. */
export function findTargetSetProblems(value: unknown): Problem[] {
  const problems: Problem[] = [];
  const set = migratePart('targets', value);
  check(targetSetShape, set, '', problems);
  if (problems.length === 0) checkSystems((set as TargetSet).systems, 'systems.', problems);
  return problems;
}

/** Every problem of a chain or of all of grit as a file; empty when it is valid. */
export function findGritProblems(value: unknown): Problem[] {
  const problems: Problem[] = [];
  if (!isTree(value)) return [{ path: '', message: 'this is no chain: a chain is a JSON object' }];
  const whole = value.format === GRIT_FORMAT;
  if (!whole && value.format !== CHAIN_FORMAT)
    return [
      {
        path: 'format',
        message: `this is no chain: ${describe(value.format)} is neither "${CHAIN_FORMAT}" nor "${GRIT_FORMAT}"`,
      },
    ];
  check(whole ? gritFileShape : chainFileShape, value, '', problems);
  if (problems.length > 0) return problems.slice(0, MOST_PROBLEMS);
  return whole ? gritFileFaults(value as unknown as GritFile) : [];
}

/** Every problem of a chain by itself, as it is kept in the library; empty when it is valid. */
export function findChainProblems(value: unknown): Problem[] {
  const problems = findGritProblems(value);
  return problems.length === 0 && (value as ChainFile | GritFile).format === GRIT_FORMAT
    ? [{ path: 'format', message: 'this is all of grit, and no chain by itself' }]
    : problems;
}

function gritFileFaults({ crossoversHz, bands }: GritFile): Problem[] {
  if (crossoversHz.length !== bands.length - 1)
    return [
      {
        path: 'bands',
        message: `there are ${bands.length}, which part at ${bands.length - 1} crossovers; ${crossoversHz.length} are given`,
      },
    ];
  const sinks = crossoversHz.findIndex((hz, c) => c > 0 && hz <= crossoversHz[c - 1]);
  return sinks < 0
    ? []
    : [
        {
          path: `crossoversHz[${sinks}]`,
          message: `${crossoversHz[sinks]} is not above ${crossoversHz[sinks - 1]}`,
        },
      ];
}

function problemsOf(value: unknown): Problem[] {
  const problems: Problem[] = [];
  check(soundShape, value, '', problems);
  if (problems.length === 0) checkWhole(value as SoundDocument, problems);
  return problems.slice(0, MOST_PROBLEMS);
}

/**
 * Takes a value as a sound document; one of an older version is brought to the present one. Throws a
 * `DocumentError` that names every problem.
 */
export function readDocument(value: unknown): SoundDocument {
  const problems = findProblems(value);
  if (problems.length > 0) throw new DocumentError(problems);
  return migrate(value) as SoundDocument;
}
