import { plain } from '../../units/index.js';
import { standWithin, type FigureSpec } from './spec.js';

/** What of a steady note lies off its harmonics. */
export const aliasing: FigureSpec = {
  label: 'Aliasing',
  unit: 'dB',
  signed: false,
  digits: 0,
  targets: ['aliasDb', 'aliasWatchDb'],
  means:
    'Energy off the harmonics of a steady note: what folds back at half the sample rate, by hard edges and heavy drive.',
  measure: ({ tone }) => tone.aliasDb,
  badness: (value) => value,
  stand: ({ figure: { value } }, { targets: { aliasDb, aliasWatchDb } }) =>
    standWithin(
      value,
      { most: [aliasDb, aliasWatchDb] },
      `the highest note, held; target ${plain(aliasDb, 0)} at most`,
      'dB',
      0,
    ),
};
