import { rebuilds } from '../schema/rebuild.js';
import { since } from '../schema/since.js';
import { flag, list, literal, nullable, number, object, text, type Infer } from '../schema/schema.js';
import { ID, log, movable } from '../schema/shape-parts.js';
import { MOST_BANDS, MOST_UNITS } from '../schema/bounds.js';
import { unitShape } from '../kinds/units/index.js';

export const CHAIN_FORMAT = 'abyssal.chain';
export const GRIT_FORMAT = 'abyssal.grit';
/** The version of both. */
export const CHAIN_VERSION = 1;

/** What every band has beside its units. */
export const bandFields = {
  on: flag(true),
  levelDb: number('Level', 'dB', -48, 12, 0, 'Level of the band.', { ...movable, step: 0.1 }),
  widthPct: number('Width', '%', 0, 200, 100, 'How wide the band is; 0 % is mono.', { ...movable, step: 1 }),
  wetPct: number('Wet', '%', 0, 100, 100, 'How much of what its units make is heard.', {
    ...movable,
    step: 0.5,
  }),
};

/** A chain of units. */
export const unitList = (most = MOST_UNITS) => list(unitShape, 0, most, 'id');

/** A chain by itself, as a file. */
export const chainFileShape = object({
  format: literal(CHAIN_FORMAT),
  formatVersion: literal(CHAIN_VERSION),
  name: text(40),
  units: unitList(),
  /** What it did in the sound in which it was kept; null where that was not measured. */
  figures: nullable(
    object({
      loudnessLu: number('Louder by', 'LU', -120, 120, 0, 'How much louder it made what went in.'),
      crestDb: number('Crest', 'dB', -120, 120, 0, 'How much it raised or lowered the crest.'),
    }),
  ),
});

/** All of grit by itself, as a file: the bands deepest first, and the chain behind their sum. */
export const gritFileShape = object({
  format: literal(GRIT_FORMAT),
  formatVersion: literal(CHAIN_VERSION),
  crossoversHz: list(
    number('Crossover', 'Hz', 20, 16000, 300, 'Where two bands part.', log),
    0,
    MOST_BANDS - 1,
  ),
  bands: list(
    object({
      id: text(40, 'band', ID),
      ...bandFields,
      units: unitList(),
    }),
    1,
    MOST_BANDS,
    'id',
  ),
  /** Whether the lowest band stays mono; its units are its own affair. */
  monoLows: flag(true),
  after: unitList(),
});

/** A band above the clean path, or from the bottom up where there is none. */
export const bandShape = object({
  id: rebuilds('instrument', text(40, 'band-1', ID)),
  /** Of the lowest band of no account. */
  fromHz: number('From', 'Hz', 40, 16000, 300, 'Where the band begins, and the one below it ends.', log),
  ...bandFields,
  units: unitList(),
});

/** All that happens by bands. */
export const gritShape = object({
  cleanPath: object({
    on: rebuilds('instrument', flag(true)),
    frequencyHz: number(
      'Clean path below',
      'Hz',
      40,
      250,
      90,
      'Below this only the Sub plays, in mono and past the grit of the bands.',
      log,
    ),
    /** Whether its own units are left out. */
    alone: since(9, rebuilds('instrument', flag(true))),
    levelDb: since(
      9,
      number('Level', 'dB', -48, 12, 0, 'Level of the clean path.', { ...movable, step: 0.1 }),
    ),
    units: since(9, unitList()),
  }),
  bands: since(9, list(bandShape, 1, MOST_BANDS, 'id')),
  after: since(9, unitList()),
});

export type Band = Infer<typeof bandShape>;
export type Grit = Infer<typeof gritShape>;
export type ChainFile = Infer<typeof chainFileShape>;
export type GritFile = Infer<typeof gritFileShape>;
