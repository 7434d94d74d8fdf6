import { BLOCK, DelayLine } from '../../dsp/index.js';
import type { Duck } from '../../document/index.js';
import { DuckStage } from './duck-stage.js';
import { GritStage, type GritNumbers } from '../units/grit-stage.js';

/** Time constant of a layer's power, in seconds. */
const FORGETS_S = 0.05;

/**
 * A layer's own way through the mix, for its stem: clean path, ducking, level and ceiling as the bass has
 * them, and its share of what the clip makes of all layers, so that the stems add
 * up to the bass; or dry, as it goes into the clip.
 */
export class StemTap {
  readonly left = new Float64Array(BLOCK);
  readonly right = new Float64Array(BLOCK);
  private readonly clean = new Float64Array(BLOCK);
  private readonly grit: GritStage;
  private readonly endLeft: DelayLine;
  private readonly endRight: DelayLine;
  private readonly duckStage: DuckStage | null;
  /** Power of late, both sides; the powers of all layers say how they share what belongs to none. */
  readonly power = new Float64Array(1);

  /**
   * `stereo` and `cleanPath` are the bass's; `shares` says whether there is a clip to share in; `duck` is
   * given where ducking acts on more than the level.
   */
  constructor(
    private readonly sub: boolean,
    private readonly stereo: boolean,
    cleanPath: boolean,
    shares: boolean,
    endDelay: number,
    duck: Duck | null,
    private readonly sampleRateHz: number,
  ) {
    this.grit = new GritStage(shares ? 'shares' : 'waits', cleanPath);
    this.endLeft = new DelayLine(endDelay);
    this.endRight = new DelayLine(endDelay);
    this.duckStage = duck ? new DuckStage(duck, sampleRateHz) : null;
  }

  /** Takes the next frames of the layer in. */
  take(sourceLeft: Float64Array, sourceRight: Float64Array, silent: boolean, frames: number): void {
    const { left, right, power } = this;
    let sum = 0;
    for (let i = 0; i < frames; i++) {
      const l = silent ? 0 : sourceLeft[i];
      const r = silent ? 0 : sourceRight[i];
      left[i] = l;
      right[i] = r;
      this.clean[i] = 0.5 * (l + r);
      sum += l * l + r * r;
    }
    power[0] += (sum / frames - power[0]) * (1 - Math.exp(-frames / (FORGETS_S * this.sampleRateHz)));
  }

  /** Adds a share of what the whole sound's feedback brings back. */
  add(left: Float64Array, right: Float64Array, share: number, frames: number): void {
    for (let i = 0; i < frames; i++) {
      this.left[i] += share * left[i];
      this.right[i] += share * right[i];
    }
  }

  /** Clean path and clip, as `bass` has just run them. */
  shape(bass: GritStage, frames: number, numbers: GritNumbers): void {
    const { left, right, clean } = this;
    this.grit.process(left, right, this.stereo, clean, this.sub, frames, numbers, bass);
    if (!this.stereo) for (let i = 0; i < frames; i++) right[i] = left[i];
  }

  /**
   * Sets level, ducking and ceiling: a gain that runs evenly over the step, the share of the ducking's depth
   * at its end, and gains frame by frame where the ceiling acts.
   */
  finish(
    fromGain: number,
    toGain: number,
    share: Float64Array,
    ceiling: Float64Array | null,
    frames: number,
  ): void {
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
