import type { SoundDocument } from '../document/index.js';
import { renderLoopSteps, type Assets, type LoopRender, type RenderOptions } from '../engine/index.js';
import { lockNotes, type NoteLock } from '../figures/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { middle, thirdOctaves } from '../measure/index.js';
import { toEnd } from '../units/index.js';

/** A line's locks as rendered, and the low bands in which they were measured. */
export interface LineLows {
  readonly locks: readonly NoteLock[];
  readonly kick: LowBand;
  readonly bass: LowBand;
}

/** The same with what a change may take of the bass. */
export interface MeasuredLine extends LineLows {
  /** Energy of the bass below Lock's frequency over the loop. */
  readonly lowEnergy: number;
  /** Its levels in third-octave bands, dB. */
  readonly tone: Float64Array;
}

/** The locks of a render, and its low bands. */
export function lowsOf(
  document: SoundDocument,
  { kick, bass, sampleRateHz }: Pick<LoopRender, 'kick' | 'bass' | 'sampleRateHz'>,
): LineLows {
  const low = ({ left, right }: LoopRender['kick']) =>
    lowBand(middle([left, right]), sampleRateHz, document.lock.belowHz, true);
  const lows = { kick: low(kick), bass: low(bass) };
  return { ...lows, locks: lockNotes(document, lows.kick, lows.bass) };
}

/** Energy of a low band over the whole of it, per second. */
export function energyOf({ re, im, rateHz }: LowBand): number {
  let sum = 0;
  for (let i = 0; i < re.length; i++) sum += re[i] * re[i] + im[i] * im[i];
  return sum / rateHz;
}

/** What a measured line has beside its lows, from the render they are of. */
export function lineOf(
  lows: LineLows,
  { bass, sampleRateHz }: Pick<LoopRender, 'bass' | 'sampleRateHz'>,
): MeasuredLine {
  return {
    ...lows,
    lowEnergy: energyOf(lows.bass),
    tone: thirdOctaves(middle([bass.left, bass.right]), sampleRateHz),
  };
}

/** Renders a sound and measures the locks of its line, in steps that yield the share done of the render. */
export function* measureLineSteps(
  document: SoundDocument,
  options: RenderOptions,
): Generator<number, MeasuredLine> {
  const render = yield* renderLoopSteps(document, { ...options, stems: 'none' });
  return lineOf(lowsOf(document, render), render);
}

/** Renders and measures a line at once; see `measureLineSteps`. */
export function measureLine(document: SoundDocument, sampleRateHz: number, assets?: Assets): MeasuredLine {
  return toEnd(measureLineSteps(document, { sampleRateHz, assets }));
}
