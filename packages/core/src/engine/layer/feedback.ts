import { feedbackShape, placesOf, type Feedback as FeedbackSetting } from '../../document/index.js';
import {
  FEEDBACK_AMOUNT_0,
  FEEDBACK_AMOUNT_1,
  FEEDBACK_DELAY_0,
  FEEDBACK_DELAY_1,
  FEEDBACK_NUMBERS,
  FeedbackPath,
} from '../../dsp/index.js';

const { amountPct: AMOUNT, delayMs: DELAY } = placesOf(feedbackShape);

/** Longest delay in seconds. */
const LONGEST_S = feedbackShape.fields.delayMs.max / 1000;
/**
 * Time in which it comes in where it is switched on while the sound goes on, in seconds; it begins once the
 * longest delay has passed.
 */
const COMES_IN_S = 0.02;
/** Corner at which what comes back is centred, in hertz. */
const CENTRE_HZ = 5;

/** Both sides of a sound on their way back to themselves: of a layer's voice, or of the whole. */
export class FeedbackLoop {
  private readonly paths: readonly FeedbackPath[];
  private readonly numbers = new Float64Array(FEEDBACK_NUMBERS);
  private readonly longest: number;
  /**
   * Frames since it was switched on while the sound goes on; without bound where it was there from the start.
   */
  private readonly age = Float64Array.of(Infinity);

  constructor(
    way: FeedbackSetting['way'],
    private readonly sampleRateHz: number,
  ) {
    this.longest = Math.ceil(LONGEST_S * sampleRateHz);
    this.paths = [0, 1].map(
      () => new FeedbackPath(way === 'compare', this.longest, (2 * Math.PI * CENTRE_HZ) / sampleRateHz),
    );
  }

  /**
   * It was switched on while the sound goes on: nothing has come round yet, and once it has it comes in
   * gently.
   */
  comeIn(): void {
    this.age[0] = 0;
  }

  reset(): void {
    this.age[0] = Infinity;
    this.paths[0].reset();
    this.paths[1].reset();
    this.numbers[FEEDBACK_DELAY_1] = 0;
  }

  copyFrom(other: FeedbackLoop): void {
    this.paths[0].copyFrom(other.paths[0]);
    this.paths[1].copyFrom(other.paths[1]);
    this.numbers.set(other.numbers);
    this.age.set(other.age);
  }

  /**
   * Runs the samples from `from` up to `to` through it, in place: amount and delay in `values` from `at` on,
   * the amount scaled by `share[0]`.
   */
  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    values: Float64Array,
    at: number,
    share: Float64Array,
    stereo: boolean,
  ): void {
    const { numbers: n, paths } = this;
    const frames = (values[at + DELAY] / 1000) * this.sampleRateHz;
    const delay = frames < 1 ? 1 : frames > this.longest ? this.longest : frames;
    let amount = (values[at + AMOUNT] / 100) * share[0];
    if (this.age[0] !== Infinity) {
      this.age[0] += to - from;
      const part = (this.age[0] - this.longest) / (COMES_IN_S * this.sampleRateHz);
      amount *= part <= 0 ? 0 : part >= 1 ? 1 : part * part * (3 - 2 * part);
      if (part >= 1) this.age[0] = Infinity;
    }
    const first = n[FEEDBACK_DELAY_1] === 0;
    n[FEEDBACK_AMOUNT_0] = first ? amount : n[FEEDBACK_AMOUNT_1];
    n[FEEDBACK_AMOUNT_1] = amount;
    n[FEEDBACK_DELAY_0] = first ? delay : n[FEEDBACK_DELAY_1];
    n[FEEDBACK_DELAY_1] = delay;
    paths[0].process(left, from, to, n);
    if (stereo) paths[1].process(right, from, to, n);
  }
}
