import { known, unknown } from '../../measure/index.js';
import { noteName } from '../../music/index.js';
import { plain, signed } from '../../units/index.js';
import type { NoteFigures, PassFigures } from '../passes/pass.js';
import { standWithin, type FigureSpec } from './spec.js';

/** The note whose pitch strays most, and by how much. */
function furthest({ notes }: PassFigures): { readonly note: NoteFigures; readonly cents: number } | null {
  return notes.reduce<{ note: NoteFigures; cents: number } | null>((most, note) => {
    const cents = note.offPitchCents.value;
    return cents !== null && (most === null || Math.abs(cents) > Math.abs(most.cents))
      ? { note, cents }
      : most;
  }, null);
}

/** How far the pitch that is found lies from the one that is asked for. */
export const foundPitch: FigureSpec<PassFigures> = {
  label: 'Found pitch',
  unit: 'ct',
  signed: false,
  digits: 0,
  targets: ['offPitchCents', 'offPitchWatchCents'],
  means:
    'How far a note sounds off its written pitch, once glide and drop are over: beating, steering and detune pull at it.',
  measure: (pass) => {
    const most = furthest(pass);
    if (most) return known(Math.abs(most.cents));
    return unknown(pass.notes[0]?.offPitchCents.reason ?? 'the line is empty');
  },
  badness: (value) => value,
  stand: ({ figure: { value }, pass }, { targets: { offPitchCents, offPitchWatchCents } }) => {
    const most = furthest(pass);
    return standWithin(
      value,
      { most: [offPitchCents, offPitchWatchCents] },
      `${most ? `${noteName(most.note.note.pitch)} at ${signed(most.cents, 0)}; ` : ''}target ${plain(offPitchCents, 0)} at most`,
      'ct',
      0,
    );
  },
};
