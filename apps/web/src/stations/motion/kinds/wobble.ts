import { formatValue, parameter } from '@abyssal/core';
import type { MoverView } from './mover-view';
import { WobblePanel } from './WobblePanel';

const ROW = { beats: parameter('movers.*.wobble.rateBeats'), hertz: parameter('movers.*.wobble.rateHz') };

export const wobble: MoverView<'wobble'> = {
  Panel: WobblePanel,
  summary: ({ rateIn, rateBeats, rateHz, restart }) =>
    `${formatValue(ROW[rateIn], rateIn === 'beats' ? rateBeats : rateHz)}, ${restart === 'note' ? 'by note' : 'free'}`,
  outlinesNotes: true,
};
