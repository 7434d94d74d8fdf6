import { marginText, plain } from '../../units/index.js';
import { atMost } from '../passes/verdict.js';
import type { FigureSpec } from './spec.js';

/** How far the sub level varies from note to note. */
export const evenness: FigureSpec = {
  label: 'Note to note',
  unit: 'dB',
  signed: false,
  targets: ['evennessDb'],
  measure: ({ evennessDb }) => evennessDb,
  badness: (value) => value,
  stand: ({ figure: { value } }, { targets: { evennessDb, evennessWatchDb } }) => ({
    detail: `spread of sub level; target ${plain(evennessDb)} at most`,
    verdict: atMost(value, evennessDb, evennessWatchDb),
    margin: marginText(value, { most: evennessDb }),
  }),
};
