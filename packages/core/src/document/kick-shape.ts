import { rebuilds } from '../schema/rebuild.js';
import { since } from '../schema/since.js';
import { choice, flag, list, nullable, number, object, text, type Infer } from '../schema/schema.js';
import { bend, log, loopTick, whole } from '../schema/shape-parts.js';
import { ASSET } from './tone-shape.js';

/** A kick that is made here. */
export const madeKickShape = object({
  body: since(3, choice(['tone', 'noise'], 'tone')),
  squarePct: since(
    3,
    number('Square', '%', 0, 100, 0, 'Bends the body from a sine towards a soft square.', { step: 1 }),
  ),
  noiseWidthOct: since(
    3,
    number(
      'Body width',
      'oct',
      0.02,
      1,
      0.12,
      'Width of the resonance that gives the noise its pitch; narrow is tonal, wide is noisy.',
      { ...log },
    ),
  ),
  dropBy: since(3, choice(['frequency', 'phase'], 'frequency')),
  startHz: number(
    'Start pitch',
    'Hz',
    40,
    2000,
    240,
    'Pitch at the very start, when the drop goes by frequency.',
    log,
  ),
  kneeHz: since(
    3,
    number('Knee', 'Hz', 25, 1000, 90, 'Pitch where the first part of the drop meets the second.', log),
  ),
  tailHz: number(
    'Tail',
    'Hz',
    25,
    120,
    48,
    'Pitch the kick settles at; you can type a note such as F1.',
    log,
  ),
  dropMs: number('Drop time', 'ms', 5, 400, 80, 'How long the first part of the drop takes.', log),
  dropBend: { ...bend('Drop'), default: -0.7 },
  settleMs: since(
    3,
    number('Settle time', 'ms', 0, 1500, 0, 'How long the second part takes; 0 for a drop in one part.', {
      step: 1,
    }),
  ),
  settleBend: since(3, { ...bend('Settle'), default: -0.4 }),
  dropCycles: since(
    3,
    number(
      'Drop cycles',
      '',
      -4,
      24,
      6,
      'How many extra cycles the drop sweeps through, when it goes by phase.',
      { step: 0.05 },
    ),
  ),
  kneePct: since(
    3,
    number('Knee share', '%', 0, 100, 20, 'How much of those cycles is left for the second part.', {
      step: 0.5,
    }),
  ),
  startDeg: since(
    3,
    number(
      'Start phase',
      '°',
      -180,
      180,
      0,
      'Phase at the start; with a drop by phase, the phase of the tail traced back to the start.',
      { step: 1 },
    ),
  ),
  holdMs: number('Hold', 'ms', 0, 500, 40, 'Time at full level before the decay.', { step: 1 }),
  decayMs: number('Decay', 'ms', 20, 3000, 260, 'Time from full level to silence.', log),
  decayBend: { ...bend('Decay'), default: -0.3 },
  lengthMs: since(
    3,
    number('Length', 'ms', 20, 4000, 4000, 'Cuts the kick after this time, with a short fade.', log),
  ),
  driveDb: since(3, number('Drive', 'dB', 0, 36, 0, 'Pushes the kick into a soft clip.', { step: 0.1 })),
  click: since(
    3,
    rebuilds(
      'instrument',
      choice(['noise', 'phase', 'sample', 'none'], 'noise'),
      (click: string) => click === 'sample',
    ),
  ),
  clickDb: number(
    'Click level',
    'dB',
    -60,
    6,
    -16,
    'Level of the click; with a click on the phase, how far the phase is shaken.',
    { step: 0.1 },
  ),
  clickHz: number('Click frequency', 'Hz', 300, 12000, 3200, 'Centre frequency of the click’s noise.', log),
  clickWidthOct: number('Click width', 'oct', 0.2, 4, 1.5, 'How wide a band the click’s noise covers.', {
    step: 0.05,
  }),
  clickMs: number('Click length', 'ms', 1, 80, 12, 'How long the click lasts.', log),
  clickShape: since(3, choice(['skew', 'fold'], 'skew')),
  clickShapePct: since(
    3,
    number(
      'Click shape',
      '%',
      0,
      100,
      0,
      'How far the first cycles are skewed or folded, with a click on the phase.',
      { step: 1 },
    ),
  ),
  clickWav: since(
    3,
    rebuilds('instrument', nullable(object({ asset: text(64, '', ASSET), fileName: text(200) }))),
  ),
});

/** A kick from a recording. */
export const wavKickShape = object({
  asset: rebuilds('instrument', text(64, '', ASSET)),
  fileName: text(200),
  gainDb: number('Gain', 'dB', -40, 24, 0, 'Gain of the recording.', { step: 0.1 }),
  startMs: since(
    3,
    rebuilds(
      'instrument',
      number('Trim from', 'ms', 0, 20000, 0, 'Leaves out everything before this.', { step: 0.1 }),
    ),
  ),
  endMs: since(
    3,
    rebuilds(
      'instrument',
      number('Trim to', 'ms', 0, 20000, 20000, 'Leaves out everything after this.', { step: 0.1 }),
    ),
  ),
  fadeMs: since(
    5,
    rebuilds(
      'instrument',
      number('Fade out', 'ms', 1, 2000, 2, 'Fade at the end, where it is trimmed.', log),
    ),
  ),
  retuneSt: since(
    3,
    rebuilds(
      'instrument',
      number('Retune', 'st', -24, 24, 0, 'Changes the pitch by resampling; the length changes with it.', {
        step: 0.01,
      }),
    ),
  ),
  shiftMs: since(
    3,
    rebuilds(
      'events',
      number('Shift', 'ms', -20, 20, 0, 'Moves the kick off its beats; positive is later.', { step: 0.01 }),
    ),
  ),
});

export const kickShape = object({
  on: rebuilds(['events', 'layers'], flag(true)),
  source: rebuilds(['events', 'instrument', 'hard hold'], choice(['made', 'wav'], 'made')),
  name: text(80, 'Kick'),
  levelDb: number('Level', 'dB', -60, 12, 0, 'Level of the kick.', { step: 0.1 }),
  made: rebuilds(['carried', 'hard hold'], madeKickShape),
  wav: nullable(wavKickShape),
  /** One oscillator for both: the bass's own carries the kick's drop, and the kick lends what lies above. */
  shared: since(3, rebuilds(['events', 'instrument'], flag(false))),
  swingPct: since(
    3,
    rebuilds(
      ['events', 'layers'],
      number(
        'Swing',
        '%',
        50,
        75,
        50,
        'Where the second of two sixteenths lands: 50 is straight, 67 a triplet.',
        { step: 0.5 },
      ),
    ),
  ),
  hits: rebuilds(
    ['events', 'layers'],
    list(
      object({
        tick: loopTick(),
        velocity: number('Velocity', '', 1, 127, 100, 'How hard the hit is.', whole),
      }),
      0,
      256,
    ),
  ),
});

export type Kick = Infer<typeof kickShape>;
export type MadeKick = Infer<typeof madeKickShape>;
export type WavKick = Infer<typeof wavKickShape>;
