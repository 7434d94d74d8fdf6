import { rebuilds, switched } from '../../schema/rebuild.js';
import { choice, flag, number, object, type Infer } from '../../schema/schema.js';
import { log, sided } from '../../schema/shape-parts.js';

export const FILTER_MODES = [
  'low',
  'high',
  'band',
  'band clipped',
  'notch',
  'comb',
  'comb negative',
  'vowel',
  'ring',
] as const;

export const filterShape = switched(
  object({
    on: rebuilds('instrument', flag(false)),
    mode: rebuilds('instrument', choice(FILTER_MODES, 'low')),
    form: rebuilds('instrument', choice(['state', 'ladder'], 'state')),
    slope: rebuilds('instrument', choice(['6', '12', '18', '24'], '24')),
    cutoffHz: number(
      'Cutoff',
      'Hz',
      20,
      20000,
      800,
      'Where the filter acts; you can type a note such as F2. Smooth: 3 dB down here at any slope without resonance, and the resonant peak sits here. Ladder: the resonant peak sits here from 25 % of resonance up; without resonance each of its four stages is 3 dB down here.',
      { ...log, ...sided },
    ),
    resonancePct: number(
      'Resonance',
      '%',
      -100,
      100,
      0,
      'Boosts the cutoff; at 100 % the filter rings by itself, below 0 it cuts a dip.',
      { ...sided, step: 0.5 },
    ),
    widthOct: number('Peak width', 'oct', 0, 3, 0, 'Makes the resonant peak wider.', {
      ...sided,
      step: 0.01,
    }),
    vowelPct: number('Vowel', '%', 0, 100, 0, 'Which vowel the vowel filter speaks.', {
      ...sided,
      step: 0.5,
    }),
    driveDb: number('Drive', 'dB', 0, 36, 0, 'Pushes the signal into saturation before the filter.', {
      ...sided,
      step: 0.1,
    }),
    levelDb: number('Output', 'dB', -24, 24, 0, 'Level after the filter.', { ...sided, step: 0.1 }),
    followPct: number(
      'Key tracking',
      '%',
      -100,
      200,
      0,
      'How far the cutoff follows the note, from F1 up; at 100 % it moves with it.',
      { step: 1 },
    ),
  }),
);

export type Filter = Infer<typeof filterShape>;
export type FilterMode = Filter['mode'];
