import { rebuilds, switched } from '../schema/rebuild.js';
import { since } from '../schema/since.js';
import { choice, flag, list, number, object, text, type Infer } from '../schema/schema.js';
import { bend, ID, log, movable, segments, sided, whole } from '../schema/shape-parts.js';
import { toneShape } from './tone-shape.js';
import { filterShape } from '../kinds/filters/index.js';
import { FILTERS, MOST_LAYER_UNITS, TONES } from '../schema/bounds.js';
import { unitList } from './grit-shape.js';

/** Ways in which a tone acts on another. */
export const WAYS = ['add', 'ring', 'fm', 'steer', 'sync', 'and', 'or', 'xor', 'compare'] as const;
const amount = (of: string) =>
  number(of, '%', 0, 100, 50, 'How strongly this tone acts on the other.', { ...movable, step: 0.5 });

export const actsShape = object({
  two: object({ way: rebuilds('instrument', choice(WAYS, 'add')), amountPct: amount('Tone 2 amount') }),
  three: object({
    on: rebuilds('instrument', choice(['1', '2'], '2')),
    way: rebuilds('instrument', choice([...WAYS, 'alternate'], 'add')),
    amountPct: amount('Tone 3 amount'),
  }),
  backPct: number('Tone 1 back on 2', '%', 0, 100, 0, 'How much tone 1 also pushes the phase of tone 2.', {
    ...movable,
    step: 0.5,
  }),
  widthPct: number(
    'Switch width',
    '%',
    5,
    95,
    50,
    'How much of tone 3’s cycle plays tone 1; the rest plays tone 2.',
    { ...movable, step: 0.5 },
  ),
  smoothPct: number('Switch smoothing', '%', 0, 100, 0, 'Softens the switch from one tone to the other.', {
    ...movable,
    step: 0.5,
  }),
});

export const feedbackShape = switched(
  object({
    on: rebuilds('instrument', flag(false)),
    way: rebuilds('instrument', choice(['clip', 'compare'], 'clip')),
    amountPct: number('Feedback', '%', 0, 100, 30, 'How much of the output is fed back in.', {
      ...movable,
      step: 0.5,
    }),
    delayMs: number('Feedback delay', 'ms', 0.05, 50, 2, 'How late it is fed back.', { ...log, ...movable }),
  }),
);

export const layerShape = object({
  id: rebuilds('instrument', text(40, 'body', ID)),
  name: text(40, 'Body'),
  role: rebuilds(['events', 'instrument'], choice(['sub', 'body', 'edge', 'knock'], 'body')),
  on: rebuilds('events', flag(true)),
  /** Id under which it was last kept in the library; empty when it never was. */
  kept: text(40),
  levelDb: number('Level', 'dB', -60, 12, 0, 'Level of the layer.', { ...sided, step: 0.1 }),
  panPct: number('Pan', '%', -100, 100, 0, 'Left (negative) or right (positive).', { ...movable, step: 1 }),
  tones: list(toneShape, TONES, TONES),
  acts: actsShape,
  feedback: feedbackShape,
  filters: list(filterShape, FILTERS, FILTERS),
  route: rebuilds('instrument', choice(['series', 'parallel', 'by tone'], 'series')),
  /** The layer's own units, before its level. */
  chain: unitList(MOST_LAYER_UNITS),
  loudness: object({
    delayMs: number('Delay', 'ms', 0, 2000, 0, 'Wait before the attack.', { step: 1 }),
    ...segments(2, 300, 100, 30),
    holdMs: number('Hold', 'ms', 0, 5000, 0, 'Time at full level before the decay.', { step: 1 }),
  }),
  drop: object({
    semitones: number(
      'Drop',
      'st',
      -48,
      48,
      0,
      'How far above the note the pitch starts; below 0 it rises.',
      {
        step: 0.1,
      },
    ),
    timeMs: number('Drop time', 'ms', 1, 8000, 60, 'How long the pitch takes to get to the note.', log),
    bend: { ...bend('Drop'), default: -0.5 },
  }),
  voice: object({
    notes: rebuilds('instrument', choice(['last', 'lowest', 'highest', 'several'], 'last')),
    voices: rebuilds('instrument', number('Voices', '', 2, 8, 4, 'How many notes can sound at once.', whole)),
    glideMs: number('Glide', 'ms', 0, 2000, 60, 'How long a glide takes, in all or for each octave.', {
      step: 1,
    }),
    glideIn: choice(['time', 'octave'], 'time'),
    glide: choice(['ties', 'always'], 'ties'),
    trigger: choice(['each note', 'legato'], 'each note'),
    /**
     * When its phase begins anew: with each note, or with each hit of the kick too, while the note goes on.
     */
    restart: since(5, rebuilds(['events', 'instrument'], choice(['note', 'note and kick'], 'note'))),
    velocityPct: number('Velocity to level', '%', 0, 100, 35, 'How much velocity changes the level.', {
      step: 1,
    }),
    velocityFilterOct: number(
      'Velocity to cutoff',
      'oct',
      0,
      5,
      0,
      'How far full velocity opens the filters.',
      { step: 0.05 },
    ),
    velocityEnvelopePct: number(
      'Velocity to envelopes',
      '%',
      0,
      100,
      0,
      'How much velocity scales what envelopes move in this layer.',
      { step: 1 },
    ),
    velocityBend: bend('Velocity'),
    end: choice(['release', 'at once', 'cycle'], 'release'),
  }),
  plays: object({
    as: rebuilds('instrument', choice(['written', 'lowest', 'arpeggio'], 'written')),
    order: choice(['up', 'down', 'both', 'played', 'any'], 'up'),
    rateBeats: number('Arpeggio rate', 'beats', 1 / 24, 4, 0.25, 'Length of one step.', log),
    octaves: number('Octaves', '', 1, 4, 1, 'How many octaves the arpeggio runs over.', whole),
    gatePct: number('Gate', '%', 5, 100, 80, 'How much of each step the note is held.', { step: 1 }),
  }),
});

export type Layer = Infer<typeof layerShape>;
export type Acts = Infer<typeof actsShape>;
export type Way = Acts['three']['way'];
export type Feedback = Infer<typeof feedbackShape>;
export type Loudness = Layer['loudness'];
