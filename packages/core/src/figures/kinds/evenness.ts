import { plain } from '../../units/index.js';
import type { PassFigures } from '../passes/pass.js';
import { standWithin, type FigureSpec } from './spec.js';

/** How far the sub level varies from note to note. */
export const evenness: FigureSpec<PassFigures> = {
  label: 'Note to note',
  unit: 'dB',
  signed: false,
  targets: ['evennessDb', 'evennessWatchDb'],
  means:
    'How evenly the notes carry their lows: a filter that does not follow the keys makes some of them thin.',
  measure: ({ evennessDb }) => evennessDb,
  badness: (value) => value,
  stand: ({ figure: { value } }, { targets: { evennessDb: holds, evennessWatchDb: watch } }) =>
    standWithin(value, { most: [holds, watch] }, `spread of sub level; target ${plain(holds)} at most`),
};
