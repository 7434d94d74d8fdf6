import { choice, flag, list, number, object, text, type Infer } from './schema.js';
import { bend, log, movable, segments, whole } from './shape-parts.js';
import { toneShape } from './tone-shape.js';

export const ID = /^[a-z0-9-]{1,40}$/;
/** Tones of a layer, filters of a layer. */
export const TONES = 3;
export const FILTERS = 2;

/** Ways in which a tone acts on another. */
export const WAYS = ['add', 'ring', 'fm', 'steer', 'sync', 'and', 'or', 'xor', 'compare'] as const;
const amount = (of: string) => number(of, '%', 0, 100, 50, 'How strongly it acts.', { ...movable, step: 0.5 });

export const actsShape = object({
  two: object({ way: choice(WAYS, 'add'), amountPct: amount('Tone 2 amount') }),
  three: object({ on: choice(['1', '2'], '2'), way: choice([...WAYS, 'alternate'], 'add'), amountPct: amount('Tone 3 amount') }),
  backPct: number('Tone 1 back on 2', '%', 0, 100, 0, 'How far tone 1 steers the phase of tone 2 at the same time.', { ...movable, step: 0.5 }),
  widthPct: number('Switch width', '%', 5, 95, 50, 'Share of tone 3’s swing during which tone 1 is heard.', { ...movable, step: 0.5 }),
  smoothPct: number('Switch smoothing', '%', 0, 100, 0, 'Rounds the passage from one tone to the other.', { ...movable, step: 0.5 }),
});

export const feedbackShape = object({
  on: flag(false),
  way: choice(['clip', 'compare'], 'clip'),
  amountPct: number('Feedback', '%', 0, 100, 30, 'How much comes back.', { ...movable, step: 0.5 }),
  delayMs: number('Feedback delay', 'ms', 0.05, 50, 2, 'How late it comes back.', { ...log, ...movable }),
});

export const FILTER_MODES = ['low', 'high', 'band', 'band clipped', 'notch', 'comb', 'comb negative', 'vowel', 'ring'] as const;

export const filterShape = object({
  on: flag(false),
  mode: choice(FILTER_MODES, 'low'),
  form: choice(['state', 'ladder'], 'state'),
  slope: choice(['6', '12', '18', '24'], '24'),
  cutoffHz: number('Cutoff', 'Hz', 20, 20000, 800, 'Where the filter acts; a note such as F2 may be typed. State: 3 dB down here without resonance, at any slope, and the peak with it. Ladder: the peak, from 25 % of resonance up; without any, each of its four stages is 3 dB down here.', { ...log, ...movable }),
  resonancePct: number('Resonance', '%', -100, 100, 0, 'Peak at the cutoff; below 0 a dip, at 100 it sounds by itself.', { ...movable, step: 0.5 }),
  widthOct: number('Peak width', 'oct', 0, 3, 0, 'Widens the peak.', { ...movable, step: 0.01 }),
  vowelPct: number('Vowel', '%', 0, 100, 0, 'Place among the vowels, for the vowel filter.', { ...movable, step: 0.5 }),
  driveDb: number('Drive', 'dB', 0, 36, 0, 'Level into the rounding in front of the filter.', { ...movable, step: 0.1 }),
  levelDb: number('Level after', 'dB', -24, 24, 0, 'Level after the filter.', { ...movable, step: 0.1 }),
  followPct: number('Follow keys', '%', -100, 200, 0, 'How far the cutoff goes with the note; 100 % keeps the tone, from F1 upward.', { step: 1 }),
});

export const layerShape = object({
  id: text(40, 'body', ID),
  name: text(40, 'Body'),
  role: choice(['sub', 'body', 'edge', 'knock'], 'body'),
  on: flag(true),
  /** Id under which it was last kept in the library; empty when it never was. */
  kept: text(40),
  levelDb: number('Level', 'dB', -60, 12, 0, 'Level of the layer.', { ...movable, step: 0.1 }),
  panPct: number('Pan', '%', -100, 100, 0, 'Left (below 0) or right.', { ...movable, step: 1 }),
  tones: list(toneShape, TONES, TONES),
  acts: actsShape,
  feedback: feedbackShape,
  filters: list(filterShape, FILTERS, FILTERS),
  route: choice(['series', 'parallel', 'by tone'], 'series'),
  /** The layer's own units; there is none yet. */
  chain: list(object({}), 0, 0),
  loudness: object({
    delayMs: number('Delay', 'ms', 0, 2000, 0, 'Time before the attack.', { step: 1 }),
    ...segments(2, 300, 100, 30),
    holdMs: number('Hold', 'ms', 0, 5000, 0, 'Time at full level before the decay.', { step: 1 }),
  }),
  drop: object({
    semitones: number('Drop', 'st', 0, 48, 0, 'How far above the note the pitch starts.', { step: 0.1 }),
    timeMs: number('Drop time', 'ms', 1, 2000, 60, 'How long the pitch takes to reach the note.', log),
    bend: { ...bend('Drop'), default: -0.5 },
  }),
  voice: object({
    notes: choice(['last', 'lowest', 'highest', 'several'], 'last'),
    voices: number('Voices', '', 2, 8, 4, 'How many notes may sound at once.', whole),
    glideMs: number('Glide', 'ms', 0, 2000, 60, 'How long a gliding note takes to arrive, or to pass an octave.', { step: 1 }),
    glideIn: choice(['time', 'octave'], 'time'),
    glide: choice(['ties', 'always'], 'ties'),
    trigger: choice(['each note', 'legato'], 'each note'),
    /** When its phase begins anew: with each note, or with each hit of the kick too, while the note goes on. */
    restart: choice(['note', 'note and kick'], 'note'),
    velocityPct: number('Touch to level', '%', 0, 100, 35, 'How much the velocity changes the level.', { step: 1 }),
    velocityFilterOct: number('Touch to cutoff', 'oct', 0, 5, 0, 'How far the greatest velocity opens the filters.', { step: 0.05 }),
    velocityEnvelopePct: number('Touch to envelopes', '%', 0, 100, 0, 'How much the velocity changes what envelopes move in this layer.', { step: 1 }),
    velocityBend: bend('Touch'),
    end: choice(['release', 'at once', 'cycle'], 'release'),
  }),
  plays: object({
    as: choice(['written', 'lowest', 'arpeggio'], 'written'),
    order: choice(['up', 'down', 'both', 'played', 'any'], 'up'),
    rateBeats: number('Arpeggio rate', 'beats', 1 / 24, 4, 0.25, 'Length of a step.', log),
    octaves: number('Span', '', 1, 4, 1, 'Over how many octaves it runs.', whole),
    gatePct: number('Gate', '%', 5, 100, 80, 'Share of a step during which the note is held.', { step: 1 }),
  }),
});

export type Layer = Infer<typeof layerShape>;
export type Filter = Infer<typeof filterShape>;
export type FilterMode = Filter['mode'];
export type Acts = Infer<typeof actsShape>;
export type Way = Acts['three']['way'];
export type Feedback = Infer<typeof feedbackShape>;
export type Loudness = Layer['loudness'];
