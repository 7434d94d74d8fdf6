import { anyDefault, defaultOf } from '../schema/default.js';
import { backingShape, type BackingPart } from './fit-shape.js';
import { wavKickShape, type WavKick } from './kick-shape.js';
import { filterShape, type Filter } from '../kinds/filters/index.js';
import { unitKindOf, type UnitKind, type UnitOf } from '../kinds/units/index.js';
import { bandShape, type Band } from './grit-shape.js';
import { layerShape, type Layer } from './layer-shape.js';
import { moverKindOf, type MoverKind, type MoverOf } from '../kinds/movers/index.js';
import { linkShape, noteShape, soundShape, type LineNote, type Link, type SoundDocument } from './shape.js';
import { systemShape, type OwnSystem } from './systems-shape.js';
import { sourceShape, toneShape, type SourceOf, type Tone, type ToneKind } from './tone-shape.js';
import { OSCILLATORS } from '../schema/bounds.js';
import { plainText } from '../units/index.js';

/** A tone from clean: of its kind's defaults, one saw where none is named. */
export function cleanTone(patch: Partial<Tone> = {}): Tone {
  return { ...defaultOf(toneShape), ...patch };
}

/** What a tone of a kind is from clean. */
export function cleanSource<K extends ToneKind>(kind: K, patch: Partial<SourceOf<K>> = {}): SourceOf<K> {
  const source = defaultOf(sourceShape.cases[kind]) as SourceOf<K>;
  return { ...source, ...STARTS[kind], ...patch };
}

/** Where a kind begins when its lists may not be empty. */
const STARTS: { readonly [K in ToneKind]?: Partial<SourceOf<K>> } = {
  harmonics: {
    a: {
      levelsDb: Array.from({ length: 12 }, (_, i) => Number((-20 * Math.log10(i + 1)).toFixed(1))),
      phasesDeg: [],
    },
  },
  fm: {
    oscillators: Array.from({ length: OSCILLATORS }, (_, o) => (o === 0 ? 100 : 0)).map((levelPct) => ({
      ...defaultOf(sourceShape.cases.fm.fields.oscillators.of),
      levelPct,
    })),
    matrix: Array.from({ length: OSCILLATORS ** 2 }, (_, i) => (i === OSCILLATORS ? 1 : 0)),
  },
  vowel: { way: ['ɑ', 'i'] },
};

export function cleanFilter(patch: Partial<Filter> = {}): Filter {
  return { ...defaultOf(filterShape), ...patch };
}

/**
 * A layer of a role from clean: Sub is one centred sine with nothing in its way, the others a saw through a
 * low-pass; Knock is short.
 */
export function cleanLayer(role: Layer['role'] = 'body', patch: Partial<Layer> = {}): Layer {
  const layer = defaultOf(layerShape);
  const sub = role === 'sub';
  const knock = role === 'knock';
  return {
    ...layer,
    id: role,
    name: role[0].toUpperCase() + role.slice(1),
    role,
    levelDb: sub ? -6 : -10,
    tones: [
      cleanTone({ on: true, source: cleanSource('shape', { shape: sub ? 'sine' : 'saw' }) }),
      cleanTone(),
      cleanTone(),
    ],
    filters: [
      sub ? cleanFilter({ cutoffHz: 200, slope: '12' }) : cleanFilter({ on: true }),
      cleanFilter({ mode: 'high', cutoffHz: 120 }),
    ],
    loudness: knock ? { ...layer.loudness, attackMs: 0.5, decayMs: 90, sustainPct: 0 } : layer.loudness,
    ...patch,
  };
}

export const cleanSub = (): Layer => cleanLayer('sub');
export const cleanBody = (): Layer => cleanLayer('body');

/** A unit of a kind from clean. */
export function cleanUnit<K extends UnitKind>(kind: K, patch: Partial<UnitOf<K>> = {}): UnitOf<K> {
  return { ...(anyDefault(unitKindOf(kind).shape) as object), ...patch } as UnitOf<K>;
}

/** A band from clean, without a unit. */
export function cleanBand(patch: Partial<Band> = {}): Band {
  return { ...defaultOf(bandShape), ...patch };
}

/** A mover of a kind from clean. */
export function cleanMover<K extends MoverKind>(kind: K, patch: Partial<MoverOf<K>> = {}): MoverOf<K> {
  const { shape, start } = moverKindOf(kind);
  return { ...(anyDefault(shape) as object), ...start?.(), ...patch } as MoverOf<K>;
}

/** A kick from a recording, whole and as it is. */
export function cleanWavKick(asset: string, fileName: string): WavKick {
  return { ...defaultOf(wavKickShape), asset, fileName: plainText(fileName, 200) };
}

/** A backing part from a recording, from the loop's start on. */
export function cleanBacking(id: string, asset: string, fileName: string): BackingPart {
  return {
    ...defaultOf(backingShape),
    id,
    name: plainText(fileName.replace(/\.wave?$/i, ''), 80),
    asset,
    fileName: plainText(fileName, 200),
  };
}

/** Nominal third-octave centres of IEC 61260-1 from 20 Hz to 20 kHz, in which the response of a system is typed. */
export const RESPONSE_THIRDS_HZ: readonly number[] = [
  20, 25, 31.5, 40, 50, 63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000,
  2500, 3150, 4000, 5000, 6300, 8000, 10000, 12500, 16000, 20000,
];
/** Room noise of a system from clean by octaves, dB SPL: that of a quiet room. */
const QUIET_ROOM_DB = [57, 50, 45, 40, 36, 33, 30, 27, 24, 22];

/** A playback system of the user's own from clean: flat, in a quiet room. */
export function cleanSystem(id: string, patch: Partial<OwnSystem> = {}): OwnSystem {
  return {
    ...defaultOf(systemShape),
    id,
    response: RESPONSE_THIRDS_HZ.map((hz) => ({ hz, levelDb: 0 })),
    noiseDb: [...QUIET_ROOM_DB],
    ...patch,
  };
}

/** A link from clean: one way, a quarter of the range. */
export function cleanLink(link: Pick<Link, 'id' | 'mover' | 'target'> & Partial<Link>): Link {
  return { ...defaultOf(linkShape), ...link };
}

export function cleanNote(note: Partial<LineNote> = {}): LineNote {
  return { ...defaultOf(noteShape), ...note };
}

/** F1, the root of a new sound, in hertz. */
const ROOT_HZ = 43.654;
/** Start phase of its kick, at which the tail stands as a note that begins with it. */
const KICK_DEG = 120;

/**
 * A new sound: Sub and Body, a kick on every beat whose tail is the root, a short root note with each, so
 * that the two lock from the start; one wobble that moves nothing yet.
 */
export function cleanSound(name = 'New sound'): SoundDocument {
  const sound = defaultOf(soundShape);
  return {
    ...sound,
    name,
    kick: {
      ...sound.kick,
      made: { ...sound.kick.made, tailHz: ROOT_HZ, startDeg: KICK_DEG },
      hits: Array.from({ length: 8 }, (_, beat) => ({ tick: beat * 480, velocity: 100 })),
    },
    layers: [cleanSub(), cleanBody()],
    grit: {
      ...sound.grit,
      bands: [cleanBand({ units: [cleanUnit('soft clip', { id: 'soft-clip-1', levelDb: -3 })] })],
    },
    movers: [cleanMover('wobble'), cleanMover('envelope')],
    line: { notes: Array.from({ length: 8 }, (_, beat) => cleanNote({ tick: beat * 480, ticks: 240 })) },
  };
}
