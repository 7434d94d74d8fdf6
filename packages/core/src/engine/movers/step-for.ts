import { STEP } from '../../dsp/index.js';

/** Steps that can be told apart in the fastest of what moves: two and a half of them a cycle. */
const STEPS_A_CYCLE = 2.5;

/** Frames of a control step that carries up to a frequency: at most `STEP`, a power of two. */
export function stepFor(fastestHz: number, sampleRateHz: number): number {
  let frames = STEP;
  while (frames > 1 && sampleRateHz / frames < STEPS_A_CYCLE * fastestHz) frames /= 2;
  return frames;
}
