import { formatValue, parameter } from '@abyssal/core';
import { EnvelopePanel } from './EnvelopePanel';
import type { MoverView } from './mover-view';

const DECAY = parameter('movers.*.envelope.decayMs');

export const envelope: MoverView<'envelope'> = {
  Panel: EnvelopePanel,
  summary: ({ decayMs }) => `envelope, ${formatValue(DECAY, decayMs)}`,
  outlinesNotes: false,
};
