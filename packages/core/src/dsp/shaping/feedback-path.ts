/** Steepness of the compare. */
const COMPARE = 6;

/** Where the path finds its numbers; places in a `Float64Array`. */
export const FEEDBACK_AMOUNT_0 = 0;
export const FEEDBACK_AMOUNT_1 = 1;
/** Delay in frames at the start and the end of the step, 1 or more. */
export const FEEDBACK_DELAY_0 = 2;
export const FEEDBACK_DELAY_1 = 3;
export const FEEDBACK_NUMBERS = 4;

/**
 * A signal that comes back to itself through a short delay: y = x + a·s(y delayed), or with compare y = x +
 * a·s(6·(y delayed − x)), s(v) = v/√(1 + v²). What
 * comes back is centred and never exceeds twice the amount, so that the whole is bounded by |x| + 2a at any
 * setting.
 */
export class FeedbackPath {
  private readonly ring: Float64Array;
  private readonly at = new Int32Array(1);
  /** Running mean of what comes back, taken off so that a compare brings no DC. */
  private readonly mean = new Float64Array(1);

  constructor(
    private readonly compares: boolean,
    longestFrames: number,
    private readonly meanRate: number,
  ) {
    this.ring = new Float64Array(2 ** Math.ceil(Math.log2(longestFrames + 4)));
  }

  reset(): void {
    this.ring.fill(0);
    this.mean[0] = 0;
  }

  copyFrom(other: FeedbackPath): void {
    if (other.ring.length === this.ring.length) this.ring.set(other.ring);
    this.at.set(other.at);
    this.mean.set(other.mean);
  }

  /** Runs the samples from `from` up to `to` through it, in place. */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { ring, compares, meanRate } = this;
    const mask = ring.length - 1;
    let amount = numbers[FEEDBACK_AMOUNT_0];
    let delay = numbers[FEEDBACK_DELAY_0];
    const amountStep = (numbers[FEEDBACK_AMOUNT_1] - amount) / (to - from);
    const delayStep = (numbers[FEEDBACK_DELAY_1] - delay) / (to - from);
    let at = this.at[0];
    let mean = this.mean[0];
    for (let i = from; i < to; i++) {
      amount += amountStep;
      delay += delayStep;
      const whole = delay | 0;
      const part = delay - whole;
      const late =
        ring[(at - whole) & mask] + part * (ring[(at - whole - 1) & mask] - ring[(at - whole) & mask]);
      const x = samples[i];
      const v = compares ? COMPARE * (late - x) : late;
      const back = v / Math.sqrt(1 + v * v);
      mean += meanRate * (back - mean);
      const y = x + amount * (back - mean);
      ring[at & mask] = y;
      samples[i] = y;
      at = (at + 1) | 0;
    }
    this.at[0] = at & mask;
    this.mean[0] = mean < 1e-18 && mean > -1e-18 ? 0 : mean;
  }
}
