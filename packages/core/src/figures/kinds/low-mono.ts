import { marginText, plain } from '../../units/index.js';
import { atLeast } from '../passes/verdict.js';
import type { FigureSpec } from './spec.js';

/** What the bass loses in mono below 120 Hz. */
export const lowMono: FigureSpec = {
  label: 'Mono loss, low',
  unit: 'dB',
  signed: false,
  targets: ['lowMonoLossDb'],
  measure: ({ mono }) => mono.low,
  badness: (value) => -value,
  stand: ({ figure: { value } }, { targets: { lowMonoLossDb, lowMonoLossWatchDb } }) => ({
    detail: `below 120 Hz; target ${plain(lowMonoLossDb)} or better`,
    verdict: atLeast(value, lowMonoLossDb, lowMonoLossWatchDb),
    margin: marginText(value, { least: lowMonoLossDb }),
  }),
};
