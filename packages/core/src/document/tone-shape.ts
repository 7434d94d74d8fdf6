import { rebuilds, switched } from '../schema/rebuild.js';
import {
  choice,
  flag,
  list,
  literal,
  nullable,
  number,
  object,
  text,
  variant,
  type Infer,
} from '../schema/schema.js';
import { log, movable, notePitch, segments, whole } from '../schema/shape-parts.js';
import {
  MOST_COPIES,
  MOST_CYCLE_FRAMES,
  MOST_HARMONICS,
  MOST_VOWELS,
  MOST_ZONES,
  OSCILLATORS,
} from '../schema/bounds.js';

/** A drawn harmonic at this level is silent. */
export const HARMONIC_FLOOR_DB = -90;
/** Vowels in the phonetic alphabet, and whose formants are spoken; see `FORMANTS`. */
export const VOWELS = ['i', 'ɪ', 'ɛ', 'æ', 'ɑ', 'ɔ', 'ʊ', 'u', 'ʌ', 'ɝ'] as const;
export const SPEAKERS = ['men', 'women', 'children'] as const;
/** The tables that ship with the program; see `FRAME_SERIES` for what each one is. */
export const FRAME_TABLES = [
  'saw to square',
  'sine to saw',
  'narrowing pulse',
  'odd stair',
  'octave stack',
  'comb drift',
  'formant climb',
  'folded sine',
  'phase bow',
  'hollow bell',
  'growl mouth',
  'power chord',
  'tide noise',
  'sync rise',
] as const;
export const ASSET = /^[0-9a-f]{64}$/;

const harmonicSet = object({
  levelsDb: list(
    number('Harmonic', 'dB', HARMONIC_FLOOR_DB, 0, 0, 'Level of the harmonic; all the way down is silent.', {
      step: 0.1,
    }),
    1,
    MOST_HARMONICS,
  ),
  phasesDeg: list(
    number('Harmonic phase', '°', -180, 180, 0, 'Phase of the harmonic; 0° is a sine.', { step: 1 }),
    0,
    MOST_HARMONICS,
  ),
});

const operator = object({
  on: flag(true),
  ratio: number('Ratio', '', 0.125, 16, 1, 'Frequency as a multiple of the note’s.', { ...log, ...movable }),
  fineCents: number('Fine ratio', 'ct', -100, 100, 0, 'Fine tuning of the ratio.', { ...movable, step: 0.5 }),
  wave: choice(['sine', 'triangle', 'saw', 'square'], 'sine'),
  levelPct: number('Out', '%', 0, 100, 0, 'How much of this oscillator is heard directly.', {
    ...movable,
    step: 0.5,
  }),
  velocityPct: number(
    'Velocity',
    '%',
    0,
    100,
    0,
    'How much velocity changes its level and how hard it modulates.',
    { step: 1 },
  ),
  envelope: object(segments(1, 400, 100, 60)),
});

const zone = object({
  asset: rebuilds('instrument', text(64, '', ASSET)),
  fileName: text(200),
  rootPitch: number('Root', 'note', 0, 127, 36, 'Note at which the sample plays at its own pitch.', whole),
  lowPitch: number('From note', 'note', 0, 127, 0, 'Lowest note that plays this sample.', whole),
  highPitch: number('To note', 'note', 0, 127, 127, 'Highest note that plays this sample.', whole),
  lowVelocity: number('From velocity', '', 1, 127, 1, 'Lowest velocity that plays this sample.', whole),
  highVelocity: number('To velocity', '', 1, 127, 127, 'Highest velocity that plays this sample.', whole),
  loop: nullable(
    object({
      from: number('Loop from', 'frames', 0, 20000000, 0, 'First frame of the loop.', whole),
      to: number('Loop to', 'frames', 1, 20000000, 1, 'First frame after the loop.', whole),
    }),
  ),
});

/** The kinds of tone, told apart by `kind`. */
export const sourceShape = variant({
  shape: object({
    kind: literal('shape'),
    shape: rebuilds('instrument', choice(['sine', 'triangle', 'saw', 'square', 'pulse'], 'saw')),
    widthPct: number('Width', '%', 5, 95, 50, 'How much of its cycle the pulse stands high.', {
      ...movable,
      step: 0.5,
    }),
  }),
  harmonics: object({
    kind: literal('harmonics'),
    a: harmonicSet,
    b: rebuilds('instrument', nullable(harmonicSet), (b: unknown) => b === null),
    positionPct: number('Morph', '%', 0, 100, 0, 'From the first drawing to the second.', {
      ...movable,
      step: 0.5,
    }),
    stopAfter: number(
      'Hard stop',
      '',
      1,
      MOST_HARMONICS,
      MOST_HARMONICS,
      'The highest harmonic that sounds.',
      whole,
    ),
    tiltDb: number('Tilt', 'dB', -12, 12, 0, 'Tilts the harmonics by this much per octave.', { step: 0.1 }),
    evenDb: number(
      'Even to odd',
      'dB',
      -40,
      40,
      0,
      'Positive turns the odd harmonics down, negative the even ones.',
      { step: 0.1 },
    ),
    pocket: object({
      on: flag(false),
      fromHz: number('Pocket from', 'Hz', 20, 16000, 200, 'Bottom of the pocket.', log),
      toHz: number('Pocket to', 'Hz', 20, 16000, 400, 'Top of the pocket.', log),
      amountDb: number(
        'Pocket amount',
        'dB',
        -60,
        0,
        -24,
        'How far the harmonics inside the pocket are turned down.',
        { step: 0.5 },
      ),
      pitch: notePitch('Pocket note', 'The note whose harmonics the pocket is worked out for.'),
    }),
    stretchPct: number(
      'Stretch',
      '%',
      -20,
      100,
      0,
      'Spreads the harmonics out of tune, like a stiff string; 0 is in tune.',
      { ...movable, step: 0.1 },
    ),
    ringMs: number(
      'Ring on',
      'ms',
      0,
      8000,
      0,
      'How long the fundamental rings after the note ends, to −60 dB.',
      { step: 1 },
    ),
    ringTiltPct: number(
      'Ring tilt',
      '%',
      0,
      200,
      50,
      'How much faster higher harmonics die away; at 100 %, an octave up rings half as long.',
      { step: 1 },
    ),
  }),
  frames: object({
    kind: literal('frames'),
    table: rebuilds('instrument', choice(FRAME_TABLES, 'saw to square')),
    wav: rebuilds(
      'instrument',
      nullable(
        object({
          asset: text(64, '', ASSET),
          fileName: text(200),
          cycleFrames: number(
            'Cycle',
            'frames',
            16,
            MOST_CYCLE_FRAMES,
            2048,
            'Length of one cycle in the WAV.',
            whole,
          ),
        }),
      ),
    ),
    positionPct: number('Position', '%', 0, 100, 0, 'Position in the wavetable.', { ...movable, step: 0.1 }),
    formantSt: number('Formant shift', 'st', -24, 24, 0, 'Moves the spectrum up or down; the note stays.', {
      ...movable,
      step: 0.1,
    }),
  }),
  fm: object({
    kind: literal('fm'),
    oscillators: list(operator, OSCILLATORS, OSCILLATORS),
    matrix: list(
      number(
        'Amount',
        '',
        0,
        12,
        0,
        'Modulation index: how far one oscillator swings another’s phase, in radians.',
        { ...movable, step: 0.01 },
      ),
      OSCILLATORS ** 2,
      OSCILLATORS ** 2,
    ),
    scale: number('All ratios', '', 0.25, 4, 1, 'Multiplies every ratio.', { ...log, ...movable }),
  }),
  vowel: object({
    kind: literal('vowel'),
    speaker: choice(SPEAKERS, 'men'),
    way: list(choice(VOWELS, 'ɑ'), 2, MOST_VOWELS),
    positionPct: number('Vowel', '%', 0, 100, 0, 'Position along the row of vowels.', {
      ...movable,
      step: 0.5,
    }),
    sizeSt: number('Size', 'st', -24, 24, 0, 'Moves all formants together; negative is a larger throat.', {
      ...movable,
      step: 0.1,
    }),
    tiltDb: number('Voice tilt', 'dB', -24, 6, -6, 'How much darker the voice gets per octave above 1 kHz.', {
      ...movable,
      step: 0.1,
    }),
    breathPct: number('Breath', '%', 0, 100, 5, 'Breath noise in the voice.', { ...movable, step: 0.5 }),
  }),
  noise: object({
    kind: literal('noise'),
    colour: choice(['white', 'pink', 'brown'], 'white'),
    tiltDb: number('Noise tilt', 'dB', -6, 6, 0, 'Tilts the noise by this much per octave.', {
      ...movable,
      step: 0.1,
    }),
  }),
  sample: object({
    kind: literal('sample'),
    zones: list(zone, 0, MOST_ZONES),
    order: choice(['in turn', 'at random'], 'in turn'),
    startPct: number('Start', '%', 0, 95, 0, 'Where in the sample playback starts.', {
      ...movable,
      step: 0.1,
    }),
    lengthPct: number('Length', '%', 1, 100, 100, 'How much of the rest is played.', { step: 0.1 }),
    fadeMs: number('Fade', 'ms', 1, 2000, 5, 'Fade-out at the end.', log),
    loops: flag(true),
  }),
});

export const toneShape = switched(
  object({
    on: rebuilds(['events', 'instrument'], flag(false)),
    octave: rebuilds(
      'events',
      number('Octave', 'oct', -4, 4, 0, 'Octaves up or down from the written note.', whole),
    ),
    semitones: rebuilds(
      'events',
      number('Semitones', 'st', -24, 24, 0, 'Semitones up or down from the written note.', whole),
    ),
    cents: number('Fine', 'ct', -100, 100, 0, 'Fine tuning in cents.', { ...movable, step: 1 }),
    pitchIn: rebuilds(['events', 'instrument'], choice(['note', 'hertz'], 'note')),
    fixedHz: number('Fixed pitch', 'Hz', 1, 8000, 55, 'One pitch, whatever note is played.', {
      ...log,
      ...movable,
    }),
    levelDb: number(
      'Tone level',
      'dB',
      -60,
      12,
      0,
      'How loud the tone itself is; all the way down, it only acts on the others.',
      { ...movable, step: 0.1 },
    ),
    panPct: number('Tone pan', '%', -100, 100, 0, 'Left (negative) or right (positive).', {
      ...movable,
      step: 1,
    }),
    to: rebuilds('instrument', choice(['1', '2', 'both', 'past'], '1')),
    startPhase: choice(['locked', 'free'], 'locked'),
    startPhaseDeg: number(
      'Start phase',
      '°',
      0,
      360,
      0,
      'Where in its cycle the tone starts on every note.',
      { step: 1 },
    ),
    copies: rebuilds(
      'instrument',
      number('Copies', '', 1, MOST_COPIES, 1, 'How many copies play together (unison).', whole),
    ),
    detuneCents: number('Detune', 'ct', 0, 100, 12, 'How far the outermost copies are detuned.', {
      ...movable,
      step: 0.5,
    }),
    detuneLaw: choice(['even', 'inward', 'outward', 'scattered'], 'even'),
    spreadPct: number('Spread', '%', 0, 100, 0, 'Spreads the copies from left to right.', {
      ...movable,
      step: 1,
    }),
    driftCents: number('Drift', 'ct', 0, 50, 0, 'How far each copy wanders off pitch by itself.', {
      ...movable,
      step: 0.1,
    }),
    driftHz: number('Drift speed', 'Hz', 0.05, 8, 0.4, 'How fast the copies wander.', { ...log, ...movable }),
    copyPhase: choice(['scattered', 'together', 'own'], 'scattered'),
    copyPhasesDeg: list(
      number('Copy phase', '°', 0, 360, 0, 'Phase of this copy, on top of the tone’s start phase.', {
        step: 1,
      }),
      0,
      MOST_COPIES,
    ),
    source: sourceShape,
  }),
);

export type Tone = Infer<typeof toneShape>;
export type ToneSource = Infer<typeof sourceShape>;
export type ToneKind = ToneSource['kind'];
export type SourceOf<K extends ToneKind> = Extract<ToneSource, { kind: K }>;
export type HarmonicSet = Infer<typeof harmonicSet>;
export type Operator = Infer<typeof operator>;
export type SampleZone = Infer<typeof zone>;
