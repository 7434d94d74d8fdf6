import type { Duck } from '../document/index.js';
import { CrossoverSide, SOFT_CLIP_DELAY } from '../dsp/index.js';
import { BLOCK } from './chunk.js';
import { DelayLine } from './delay-line.js';
import { DuckStage } from './duck-stage.js';

/**
 * A layer's own way through the mix, for its stem: crossover, ducking, level and ceiling as the bass has them, but no clip, which is one for all layers. Where nothing clips, the stems
 * add up to the bass.
 */
export class StemTap {
  readonly left = new Float64Array(BLOCK);
  readonly right = new Float64Array(BLOCK);
  private readonly highLeft = new CrossoverSide('high');
  private readonly highRight = new CrossoverSide('high');
  private readonly low = new CrossoverSide('low');
  private readonly clean = new Float64Array(BLOCK);
  /** As long as the clip takes, and as the ceiling looks ahead. */
  private readonly clipLeft = new DelayLine(SOFT_CLIP_DELAY);
  private readonly clipRight = new DelayLine(SOFT_CLIP_DELAY);
  private readonly endLeft: DelayLine;
  private readonly endRight: DelayLine;
  private readonly duckStage: DuckStage | null;

  /** `duck` is given where ducking acts on more than the level. */
  constructor(private readonly sub: boolean, private readonly cleanPath: boolean, endDelay: number, duck: Duck | null, sampleRateHz: number) {
    this.endLeft = new DelayLine(endDelay);
    this.endRight = new DelayLine(endDelay);
    this.duckStage = duck ? new DuckStage(duck, sampleRateHz) : null;
  }

  /** Takes the next frames of the layer in; `g` is the warped crossover at both ends of the step. */
  take(sourceLeft: Float64Array, sourceRight: Float64Array, silent: boolean, frames: number, g: Float64Array): void {
    const { left, right, clean } = this;
    for (let i = 0; i < frames; i++) {
      left[i] = silent ? 0 : sourceLeft[i];
      right[i] = silent ? 0 : sourceRight[i];
    }
    if (this.cleanPath) {
      if (this.sub) {
        for (let i = 0; i < frames; i++) clean[i] = 0.5 * (left[i] + right[i]);
        this.low.process(clean, frames, g);
      }
      this.highLeft.process(left, frames, g);
      this.highRight.process(right, frames, g);
      if (this.sub) for (let i = 0; i < frames; i++) { left[i] += clean[i]; right[i] += clean[i]; }
    }
    this.clipLeft.process(left, frames);
    this.clipRight.process(right, frames);
  }

  /** Sets level, ducking and ceiling: a gain that runs evenly over the step, the share of the ducking's depth at its end, and gains frame by frame where the ceiling acts. */
  finish(fromGain: number, toGain: number, share: Float64Array, ceiling: Float64Array | null, frames: number): void {
    const { left, right } = this;
    const step = (toGain - fromGain) / frames;
    let gain = fromGain;
    for (let i = 0; i < frames; i++) {
      gain += step;
      left[i] *= gain;
      right[i] *= gain;
    }
    if (this.duckStage) this.duckStage.process(left, right, true, frames, share);
    this.endLeft.process(left, frames);
    this.endRight.process(right, frames);
    if (!ceiling) return;
    for (let i = 0; i < frames; i++) {
      left[i] *= ceiling[i];
      right[i] *= ceiling[i];
    }
  }
}
