import { list, literal, number, object, text, type Infer, flag } from '../schema/schema.js';
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

const units = () => list(unitShape, 0, MOST_UNITS, 'id');

/** A chain by itself, as a file. */
export const chainFileShape = object({
  format: literal(CHAIN_FORMAT),
  formatVersion: literal(CHAIN_VERSION),
  name: text(40),
  units: units(),
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
      units: units(),
    }),
    1,
    MOST_BANDS,
    'id',
  ),
  /** Whether the lowest band stays mono; its units are its own affair. */
  monoLows: flag(true),
  after: units(),
});

export type ChainFile = Infer<typeof chainFileShape>;
export type GritFile = Infer<typeof gritFileShape>;
