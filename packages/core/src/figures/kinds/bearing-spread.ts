import { known, unknown } from '../../measure/index.js';
import { plain } from '../../units/index.js';
import { noLockWords } from '../passes/no-lock-words.js';
import { bearingsOf, spreadDeg } from '../passes/note-lock.js';
import type { PassFigures } from '../passes/pass.js';
import { standWithin, type FigureSpec } from './spec.js';

/** How far the phase bearings of all hits of the line stand apart. */
export const bearingSpread: FigureSpec<PassFigures> = {
  label: 'Bearing spread',
  unit: '°',
  signed: false,
  digits: 0,
  targets: ['bearingSpreadDeg', 'bearingSpreadWatchDeg'],
  means:
    'How far the phase between kick and bass differs from hit to hit: no one turn serves all of them where it is wide.',
  measure: ({ notes }, document) => {
    const bearings = notes.flatMap(({ meetings }) => bearingsOf(meetings));
    const spread = spreadDeg(bearings);
    if (spread !== null) return known(spread);
    return unknown(bearings.length === 1 ? 'only one hit has a bearing' : noLockWords(document, notes));
  },
  badness: (value) => value,
  stand: ({ figure: { value } }, { targets: { bearingSpreadDeg, bearingSpreadWatchDeg } }) =>
    standWithin(
      value,
      { most: [bearingSpreadDeg, bearingSpreadWatchDeg] },
      `over all hits; target ${plain(bearingSpreadDeg, 0)} at most`,
      '°',
      0,
    ),
};
