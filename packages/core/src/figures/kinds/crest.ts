import { plain } from '../../units/index.js';
import { standWithin, type FigureSpec } from './spec.js';

/** How far the bass's peaks stand above its level. */
export const crest: FigureSpec = {
  label: 'Crest',
  unit: 'dB',
  signed: false,
  targets: ['crestDb', 'crestWatchDb'],
  means: 'Peak over level of the bass: a sine has 3, a square none; less than 3 is clipped flat.',
  measure: ({ tone }) => tone.crestDb,
  badness: (value) => -value,
  stand: ({ figure: { value } }, { targets: { crestDb, crestWatchDb } }) =>
    standWithin(value, { least: [crestDb, crestWatchDb] }, `peak over RMS; target ${plain(crestDb)} or more`),
};
