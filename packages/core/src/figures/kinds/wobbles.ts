import { known, unknown } from '../../measure/index.js';
import { noteName } from '../../music/index.js';
import { plain } from '../../units/index.js';
import type { NoteTone } from '../tone/tone-of.js';
import { standWithin, type FigureSpec, type WholePass } from './spec.js';

/** How far a found wobble is off the nearest that was asked for, as a share; null where either is missing. */
export function wobbleOff({ wobbleHz, askedHz }: NoteTone): number | null {
  const { value } = wobbleHz;
  if (value === null || askedHz.length === 0) return null;
  return Math.min(...askedHz.map((hz) => Math.abs(value / hz - 1)));
}

function furthest({ tone }: WholePass): { readonly note: NoteTone; readonly off: number } | null {
  return tone.notes.reduce<{ note: NoteTone; off: number } | null>((most, note) => {
    const off = wobbleOff(note);
    return off !== null && (most === null || off > most.off) ? { note, off } : most;
  }, null);
}

/** Whether what wobbles does so at the rate that was asked for. */
export const wobbles: FigureSpec = {
  label: 'Wobble found',
  unit: '%',
  signed: false,
  digits: 0,
  targets: ['wobbleOffPct', 'wobbleOffWatchPct'],
  means:
    'How far the movement that is heard is off the rate of a wobble: others may mask it, or a filter be passed twice a cycle.',
  measure: (pass) => {
    const most = furthest(pass);
    if (most) return known(100 * most.off);
    if (pass.tone.notes.length === 0) return unknown('the line is empty');
    if (pass.tone.notes.every(({ askedHz }) => askedHz.length === 0))
      return unknown('no wobble moves anything');
    return unknown(
      pass.tone.notes.find(({ askedHz }) => askedHz.length > 0)!.wobbleHz.reason ?? 'none is found',
    );
  },
  badness: (value) => value,
  stand: ({ figure: { value }, pass }, { targets: { wobbleOffPct, wobbleOffWatchPct } }) => {
    const most = furthest(pass);
    const where = most
      ? `${noteName(most.note.note.pitch)}: ${plain(most.note.wobbleHz.value!, 2)} Hz of ${most.note.askedHz.map((hz) => plain(hz, 2)).join(' or ')}; `
      : '';
    return standWithin(
      value,
      { most: [wobbleOffPct, wobbleOffWatchPct] },
      `${where}target ${plain(wobbleOffPct, 0)} at most`,
      '%',
      0,
    );
  },
};
