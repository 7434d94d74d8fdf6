import { plain, signed } from '../../units/index.js';
import { standWithin, type FigureSpec } from './spec.js';

/** Energy of the sub over that of the low mids. */
export const subToBody: FigureSpec = {
  label: 'Sub to body',
  unit: 'dB',
  signed: true,
  targets: ['subToBodyMinDb', 'subToBodyMaxDb', 'subToBodyWatchMinDb', 'subToBodyWatchMaxDb'],
  means:
    'The sub against the low mids: too much of it has no body on anything small, too little has no floor.',
  measure: ({ tone }) => tone.subToBodyDb,
  badness: (value, { subToBodyMinDb, subToBodyMaxDb }) =>
    Math.abs(value - (subToBodyMinDb + subToBodyMaxDb) / 2),
  stand: (
    { figure: { value } },
    { targets: { subToBodyMinDb: least, subToBodyMaxDb: most, subToBodyWatchMinDb, subToBodyWatchMaxDb } },
  ) =>
    standWithin(
      value,
      { least: [least, subToBodyWatchMinDb], most: [most, subToBodyWatchMaxDb] },
      `20 to 90 Hz over 90 to 300 Hz; target ${plain(least, 0)} to ${signed(most, 0)}`,
    ),
};
