import { plain } from '../../units/index.js';
import type { PassFigures } from '../passes/pass.js';
import { standWithin, type FigureSpec } from './spec.js';

/** What the bass loses in mono below 120 Hz. */
export const lowMono: FigureSpec<PassFigures> = {
  label: 'Mono loss, low',
  unit: 'dB',
  signed: false,
  targets: ['lowMonoLossDb', 'lowMonoLossWatchDb'],
  means:
    'What a mono sub, as in most clubs, takes from the lows: width, copies or a chorus that reach too deep.',
  measure: ({ mono }) => mono.low,
  badness: (value) => -value,
  stand: ({ figure: { value } }, { targets: { lowMonoLossDb: holds, lowMonoLossWatchDb: watch } }) =>
    standWithin(value, { least: [holds, watch] }, `below 120 Hz; target ${plain(holds)} or better`),
};
