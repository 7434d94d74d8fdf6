import { number } from './schema.js';
import { HIGHEST_NOTE, LOWEST_NOTE, MOST_TICKS, ROOT_NOTE } from './bounds.js';

/** A note of the line, and a place in the loop. */
export const notePitch = (label = 'Note', help = 'MIDI note number; 29 is F1.') =>
  number(label, 'note', LOWEST_NOTE, HIGHEST_NOTE, ROOT_NOTE, help, whole);
export const loopTick = (label = 'Position', help = 'Position in the loop; 480 ticks a beat.') =>
  number(label, 'ticks', 0, MOST_TICKS - 1, 0, help, whole);

/** An identifier within a document. */
export const ID = /^[a-z0-9-]{1,40}$/;

/** Options and segments that several parts of the document share. */
export const log = { scale: 'log' } as const;
export const movable = { movable: true } as const;
/** Works on left and right by itself. */
export const sided = { movable: true, sided: true } as const;
export const whole = { whole: true } as const;

export const bend = (of: string) =>
  number(`${of} bend`, '', -1, 1, 0, 'Positive starts slowly, negative starts fast.', { step: 0.01 });

export const segments = (attack: number, decay: number, sustain: number, release: number) => ({
  attackMs: number('Attack', 'ms', 0.5, 5000, attack, 'Time from the start of the note to full level.', log),
  attackBend: bend('Attack'),
  decayMs: number('Decay', 'ms', 1, 10000, decay, 'Time from full level down to the sustain level.', log),
  decayBend: { ...bend('Decay'), default: -0.5 },
  sustainPct: number(
    'Sustain',
    '%',
    0,
    100,
    sustain,
    'Level held for as long as the note lasts; you can also type −6dB.',
    { step: 1, amplitude: true },
  ),
  releaseMs: number('Release', 'ms', 1, 10000, release, 'Time from the end of the note to silence.', log),
  releaseBend: { ...bend('Release'), default: -0.5 },
});
