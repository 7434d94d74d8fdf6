import { variant, type Infer } from '../../schema/schema.js';
import { compressor } from './dynamics/compressor.js';
import { limiter } from './dynamics/limiter.js';
import { multibandCompressor } from './dynamics/multiband.js';
import { noteGap } from './dynamics/note-gap.js';
import { transient } from './dynamics/transient.js';
import { filter } from './filter/filter.js';
import { combs } from './movement/combs.js';
import { delay } from './movement/delay.js';
import { flanger } from './movement/flanger.js';
import { hall } from './movement/hall.js';
import { pan } from './movement/pan.js';
import { phaser } from './movement/phaser.js';
import { roughDelay } from './movement/rough-delay.js';
import { shift } from './movement/shift.js';
import { chorus, unison } from './movement/voices.js';
import { widener } from './movement/widener.js';
import { crush } from './shapers/crush.js';
import { compare, fold, hardClip, rectify, sineFold, softClip, tube } from './shapers/curves.js';
import { tape } from './shapers/tape.js';
import { declick } from './spectrum/declick.js';
import { equaliser } from './spectrum/equaliser.js';
import { glareControl } from './spectrum/glare-control.js';
import { harmonics } from './spectrum/harmonics.js';
import { tilt } from './spectrum/tilt.js';
import type { UnitKindSpec, UnitShape } from './kind/unit-kind.js';

/** The kinds of unit, told apart by `kind`. */
const UNIT_KINDS = {
  'soft clip': softClip,
  'hard clip': hardClip,
  tube,
  tape,
  fold,
  'sine fold': sineFold,
  rectify,
  compare,
  crush,
  filter,
  compressor,
  'multiband compressor': multibandCompressor,
  limiter,
  transient,
  'note gap': noteGap,
  equaliser,
  tilt,
  'glare control': glareControl,
  declick,
  harmonics,
  chorus,
  flanger,
  phaser,
  combs,
  delay,
  pan,
  'rough delay': roughDelay,
  shift,
  unison,
  widener,
  hall,
};

type Kinds = typeof UNIT_KINDS;
const shapes = Object.fromEntries(Object.entries(UNIT_KINDS).map(([kind, { shape }]) => [kind, shape])) as {
  [K in keyof Kinds]: Kinds[K]['shape'];
};

export const unitShape = variant(shapes);
export const UNIT_NAMES = Object.keys(UNIT_KINDS) as (keyof Kinds)[];

export type GritUnit = Infer<typeof unitShape>;
export type UnitKind = GritUnit['kind'];
export type UnitOf<K extends UnitKind> = Extract<GritUnit, { kind: K }>;
export * from './kind/unit-kind.js';

/** What a kind of unit brings. */
export const unitKindOf = (kind: UnitKind) =>
  UNIT_KINDS[kind] as unknown as UnitKindSpec<UnitShape, GritUnit>;
