import { KEY_NAMES, SCALE_NAMES } from '../music/index.js';
import { rebuilds } from '../schema/rebuild.js';
import { since } from '../schema/since.js';
import { choice, flag, list, literal, nullable, number, object, text, type Infer } from '../schema/schema.js';
import { backingShape, duckShape, lockShape } from './fit-shape.js';
import { gritShape } from './grit-shape.js';
import { kickShape } from './kick-shape.js';
import { feedbackShape, layerShape } from './layer-shape.js';
import { systemsShape } from './systems-shape.js';
import { targetsShape } from './targets-shape.js';
import { macroShape, moverShape } from '../kinds/movers/index.js';
import { bend, ID, loopTick, movable, notePitch, whole } from '../schema/shape-parts.js';
import {
  MACROS,
  LONGEST_NAME,
  LONGEST_TAG,
  MOST_BACKING,
  MOST_BARS,
  MOST_LAYERS,
  MOST_LANES,
  MOST_LINKS,
  MOST_MOVERS,
  MOST_NOTES,
  MOST_POINTS,
  MOST_TAGS,
  MOST_TICKS,
} from '../schema/bounds.js';

export const FORMAT = 'abyssal.sound';
export const FORMAT_VERSION = 10;

/** Steps in which the line is drawn. */
export const DRAW_STEPS = ['1/4', '1/8', '1/8T', '1/16', '1/16T', '1/32'] as const;

/** What may be moved: a path with the ids of layers, movers, macros and links in it. */
const target = () => text(100, '', /^[A-Za-z0-9.-]{3,100}$/);

export const linkShape = object({
  id: text(40, 'link-1', ID),
  mover: text(40, '', ID),
  target: target(),
  reachPct: number(
    'Reach',
    '%',
    -100,
    100,
    25,
    'How far the mover carries it, as a share of its whole range.',
    { ...movable, step: 0.5 },
  ),
  /** Where it is carried to while the mover stands at 0, where that is not the value itself. */
  fromPct: since(
    8,
    number('From', '%', -100, 100, 0, 'Where it is carried to while the mover stands all the way down.', {
      step: 0.5,
    }),
  ),
  way: since(8, choice(['one way', 'both ways'], 'one way')),
  bend: since(8, bend('Link')),
  /** For what works on left and right by itself. */
  sides: since(8, choice(['alike', 'opposed'], 'alike')),
  on: flag(true),
});

const pointShape = object({
  tick: number('Position', 'ticks', 0, MOST_TICKS, 0, 'Position in the loop; 480 ticks a beat.', { step: 1 }),
  value: number('Value', '', 0, 1, 0, 'Where the parameter stands, as a share of its range.', {
    step: 0.005,
  }),
  bend: number('Bend', '', -1, 1, 0, 'Bend of the way to the next point; positive starts slowly.', {
    step: 0.01,
  }),
  /** Whether the value stands until the next point. */
  hold: flag(false),
});

/** A parameter or a macro over the loop, drawn or recorded. */
export const laneShape = object({
  target: target(),
  on: flag(true),
  points: list(pointShape, 1, MOST_POINTS),
});

export const noteShape = object({
  tick: loopTick(),
  ticks: number('Length', 'ticks', 1, MOST_TICKS, 240, 'Length of the note; 480 ticks a beat.', whole),
  pitch: notePitch(),
  velocity: number('Velocity', '', 1, 127, 100, 'How hard the note is played.', whole),
  accent: flag(false),
  tie: flag(false),
  /** With one oscillator for both, whether the note is bass and kick, the kick alone or the bass alone. */
  carries: since(3, choice(['both', 'kick', 'bass'], 'both')),
  /** Rate for the wobbles that go by the note, in beats; 0 holds them still. */
  wobbleBeats: since(
    8,
    nullable(
      number('Wobble rate', 'beats', 0, 32, 1, 'Rate of the wobbles on this note; 0 holds them still.'),
    ),
  ),
  /** Where it was played, where it has been quantised since. */
  played: since(
    8,
    nullable(
      object({
        tick: loopTick('Played', 'Where it was played; 480 ticks a beat.'),
        ticks: number('Played length', 'ticks', 1, MOST_TICKS, 240, 'How long it was held.', whole),
      }),
    ),
  ),
});

export const soundShape = object({
  format: literal(FORMAT),
  formatVersion: literal(FORMAT_VERSION),
  name: text(LONGEST_NAME, 'New sound'),
  author: text(LONGEST_NAME),
  tags: list(text(LONGEST_TAG), 0, MOST_TAGS),
  seed: rebuilds(
    ['instrument', 'layers'],
    number('Seed', '', 0, 4294967295, 1, 'Starting point of everything random in the sound.', whole),
  ),
  ground: object({
    tempoBpm: rebuilds(
      ['events', 'layers'],
      number('Tempo', 'bpm', 40, 240, 140, 'Beats per minute.', { step: 0.1 }),
    ),
    key: rebuilds('carried', choice(KEY_NAMES, 'F')),
    scale: choice(SCALE_NAMES, 'minor'),
    bars: rebuilds(
      ['events', 'layers'],
      number('Bars', '', 1, MOST_BARS, 2, 'Length of the loop in bars.', whole),
    ),
    a4Hz: rebuilds(
      ['carried', 'layers'],
      number('A4', 'Hz', 415, 466, 440, 'Tuning: the frequency of the A above middle C.', { step: 0.1 }),
    ),
  }),
  kick: kickShape,
  backing: since(3, list(backingShape, 0, MOST_BACKING, 'id')),
  layers: list(layerShape, 1, MOST_LAYERS, 'id'),
  feedback: since(2, feedbackShape),
  movers: list(moverShape, 0, MOST_MOVERS, 'id'),
  links: list(linkShape, 0, MOST_LINKS, 'id'),
  macros: since(8, list(macroShape, MACROS, MACROS)),
  lanes: since(8, list(laneShape, 0, MOST_LANES, 'target')),
  grit: gritShape,
  line: rebuilds(['events', 'layers'], object({ notes: list(noteShape, 0, MOST_NOTES) })),
  /** The step in which the line was drawn last. */
  drawStep: since(6, choice(DRAW_STEPS, '1/16')),
  duck: duckShape,
  lock: lockShape,
  output: object({
    levelDb: number('Level', 'dB', -24, 12, 0, 'Level of the bass.', { step: 0.1 }),
    ceilingDb: number('Ceiling', 'dB', -12, 0, -1.2, 'The true peak of the whole never goes above this.', {
      step: 0.1,
    }),
  }),
  targets: targetsShape,
  /** The user's own playback systems, and which of all do not matter for the sound. */
  systems: since(10, systemsShape),
});

export type SoundDocument = Infer<typeof soundShape>;
export type Link = Infer<typeof linkShape>;
export type Lane = Infer<typeof laneShape>;
export type LanePoint = Lane['points'][number];
export type LineNote = Infer<typeof noteShape>;
export type Ground = SoundDocument['ground'];
