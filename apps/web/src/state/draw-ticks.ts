import { parseDivision, TICKS_PER_BEAT, type SoundDocument } from '@abyssal/core';

/** The step in which lines and lanes are drawn, in ticks. */
export const drawTicks = ({ drawStep }: Pick<SoundDocument, 'drawStep'>): number =>
  Math.round(parseDivision(drawStep)! * TICKS_PER_BEAT);
