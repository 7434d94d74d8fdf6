import { noteName } from '../../music/index.js';
import { plain } from '../../units/index.js';
import { standWithin, type FigureSpec, type WholePass } from './spec.js';

/** The note whose lows are softest, and how loud they are. */
function softest({ tone }: WholePass): { readonly pitch: number; readonly lufs: number } | null {
  return tone.notes.reduce<{ pitch: number; lufs: number } | null>((least, { note, subLufs: { value } }) => {
    return value !== null && (least === null || value < least.lufs)
      ? { pitch: note.pitch, lufs: value }
      : least;
  }, null);
}

/** Loudness of the lows by themselves. */
export const subAlone: FigureSpec = {
  label: 'Sub alone',
  unit: 'LUFS',
  signed: false,
  targets: ['subLufs', 'subWatchLufs'],
  means:
    'How loud the lows are by themselves: this is what a club carries, and what the tops are measured against.',
  measure: ({ tone }) => tone.subLufs,
  badness: (value) => -value,
  stand: ({ figure: { value }, pass }, { lock, targets: { subLufs, subWatchLufs } }) => {
    const least = softest(pass);
    const note = least ? `; softest on ${noteName(least.pitch)} at ${plain(least.lufs)}` : '';
    return standWithin(
      value,
      { least: [subLufs, subWatchLufs] },
      `below ${Math.round(lock.belowHz)} Hz; target ${plain(subLufs)} or more${note}`,
      'LU',
    );
  },
};
