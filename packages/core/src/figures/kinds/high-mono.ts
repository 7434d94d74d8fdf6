import { marginText, plain } from '../../units/index.js';
import { atLeast } from '../passes/verdict.js';
import type { FigureSpec } from './spec.js';

const bandText = (hz: number) => (hz >= 1000 ? `${hz / 1000} kHz` : `${hz} Hz`);

/** What the bass loses in mono above 250 Hz, in its worst band. */
export const highMono: FigureSpec = {
  label: 'Mono loss, high',
  unit: 'dB',
  signed: false,
  targets: [],
  measure: ({ mono }) => mono.high,
  badness: (value) => -value,
  stand: (
    {
      figure: { value },
      pass: {
        mono: { worstHighHz },
      },
    },
    { targets: { highMonoLossDb, highMonoLossWatchDb } },
  ) => ({
    detail: `${worstHighHz === null ? '250 Hz to 8 kHz' : `worst band ${bandText(worstHighHz)}`}; target ${plain(highMonoLossDb)} or better`,
    verdict: atLeast(value, highMonoLossDb, highMonoLossWatchDb),
    margin: marginText(value, { least: highMonoLossDb }),
  }),
};
