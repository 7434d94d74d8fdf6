import { plain } from '../../units/index.js';
import { standWithin, type FigureSpec } from './spec.js';

/** The constant that a bass stands off by. */
export const dc: FigureSpec = {
  label: 'DC',
  unit: 'dBFS',
  signed: false,
  digits: 0,
  targets: ['dcDb', 'dcWatchDb'],
  means:
    'A constant offset takes headroom and clicks where the sound starts and ends; a bias without a filter after it makes one.',
  measure: ({ tone }) => tone.dcDb,
  badness: (value) => value,
  stand: ({ figure: { value } }, { targets: { dcDb, dcWatchDb } }) =>
    standWithin(value, { most: [dcDb, dcWatchDb] }, `worst note; target ${plain(dcDb, 0)} or less`, 'dB', 0),
};
