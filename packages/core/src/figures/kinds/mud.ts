import { plain } from '../../units/index.js';
import { standWithin, type FigureSpec } from './spec.js';

/** What lies between 200 and 400 Hz. */
export const mud: FigureSpec = {
  label: 'Mud',
  unit: 'dB',
  signed: false,
  targets: ['mudDb', 'mudWatchDb'],
  means:
    'How much of the mids lies between 200 and 400 Hz: there a bass gets cloudy, and hides what plays with it.',
  measure: ({ tone }) => tone.mudDb,
  badness: (value) => value,
  stand: ({ figure: { value } }, { targets: { mudDb, mudWatchDb } }) =>
    standWithin(
      value,
      { most: [mudDb, mudWatchDb] },
      `200 to 400 Hz over 90 to 1600 Hz; target ${plain(mudDb)} at most`,
    ),
};
