import { plain } from '../../units/index.js';
import type { PassFigures } from '../passes/pass.js';
import { standWithin, type FigureSpec } from './spec.js';

const bandText = (hz: number) => (hz >= 1000 ? `${hz / 1000} kHz` : `${hz} Hz`);

/** What the bass loses in mono above 250 Hz, in its worst band. */
export const highMono: FigureSpec<PassFigures> = {
  label: 'Mono loss, high',
  unit: 'dB',
  signed: false,
  targets: ['highMonoLossDb', 'highMonoLossWatchDb'],
  means: 'What a phone or a mono room takes from the tops: sides that are opposed, or panned hard apart.',
  measure: ({ mono }) => mono.high,
  badness: (value) => -value,
  stand: (
    {
      figure: { value },
      pass: {
        mono: { worstHighHz },
      },
    },
    { targets: { highMonoLossDb: holds, highMonoLossWatchDb: watch } },
  ) =>
    standWithin(
      value,
      { least: [holds, watch] },
      `${worstHighHz === null ? '250 Hz to 8 kHz' : `worst band ${bandText(worstHighHz)}`}; target ${plain(holds)} or better`,
    ),
};
