import type { Duck } from '../../document/index.js';
import { BLOCK, CrossoverSide, prewarp, StateVariable } from '../../dsp/index.js';
import { dbToGain } from '../../units/index.js';
import { duckGain } from './duck.js';

/**
 * Hard ducking splits higher than 120 Hz, so that a Linkwitz–Riley high-pass leaves nothing of worth below it
 * (−24 dB at 120 Hz).
 */
const HARD_BELOW_HZ = 230;
/**
 * What is asked of ducking on the lows is met up to this share of the frequency below which it acts, within
 * so many dB.
 */
const MET_BELOW = 2 / 3;
const MET_DB = 1;

/**
 * Where ducking on the lows splits, in hertz: high enough that what the high side of the crossover leaks
 * below it, (f/fc)⁴ of what passes, raises a depth g to no more than g·10^(1/20) at two thirds of the
 * frequency below which it acts:
 * (g + r)/(1 + r) = g·10^(1/20) with r = (f/fc)⁴, for Linkwitz and Riley's sides add up in phase.
 * A steeper split would stand lower, and turn the phase of the lows by more.
 */
function duckSplitHz({ hard, belowHz, amountDb }: Duck): number {
  if (hard) return HARD_BELOW_HZ;
  const gain = dbToGain(-amountDb);
  const raised = gain * dbToGain(MET_DB);
  return raised >= 1
    ? belowHz
    : Math.max(belowHz, (MET_BELOW * belowHz) / Math.pow((raised - gain) / (1 - raised), 0.25));
}

/**
 * Where the filter stands while it is open, as a share of the sample rate, and how much of the depth brings
 * it in whole.
 */
const OPEN = 0.4;
const COMES_IN = 0.05;

/** One side of the bass on its way through the ducking. */
class Side {
  readonly low = new CrossoverSide('low');
  readonly high = new CrossoverSide('high');
  readonly filter = new StateVariable('low');
  private readonly work = new Float64Array(BLOCK);

  copyFrom(other: Side): void {
    this.low.copyFrom(other.low);
    this.high.copyFrom(other.high);
    this.filter.copyFrom(other.filter);
  }

  /** Lowers what lies below the crossover `g` by gains that run evenly from `gains[0]` to `gains[1]`. */
  split(samples: Float64Array, frames: number, g: Float64Array, gains: Float64Array): void {
    const { work } = this;
    for (let i = 0; i < frames; i++) work[i] = samples[i];
    this.low.process(work, 0, frames, g);
    this.high.process(samples, 0, frames, g);
    const step = (gains[1] - gains[0]) / frames;
    let gain = gains[0];
    for (let i = 0; i < frames; i++) {
      gain += step;
      samples[i] += gain * work[i];
    }
  }

  /** Closes a low-pass of 12 dB; `gains` are its share of the sum at both ends of the step. */
  close(samples: Float64Array, frames: number, section: Float64Array, gains: Float64Array): void {
    const { work } = this;
    for (let i = 0; i < frames; i++) work[i] = samples[i];
    this.filter.process(work, 0, frames, section);
    const step = (gains[1] - gains[0]) / frames;
    let gain = gains[0];
    for (let i = 0; i < frames; i++) {
      gain += step;
      samples[i] += gain * (work[i] - samples[i]);
    }
  }
}

/** Ducking that acts on the lows of the bass alone, or on a filter that closes over it. */
export class DuckStage {
  private readonly left = new Side();
  private readonly right = new Side();
  private readonly crossover = new Float64Array(2);
  private readonly section = new Float64Array(3);
  private readonly gains = new Float64Array(2);
  /** Share of the depth at the end of the last step. */
  private readonly last = new Float64Array(1);

  constructor(
    private duck: Duck,
    private readonly sampleRateHz: number,
  ) {
    this.set(duck);
    this.crossover[0] = this.crossover[1];
    this.section[0] = this.section[1] = this.cutoff(0);
    this.section[2] = Math.SQRT2;
  }

  set(duck: Duck): void {
    this.duck = duck;
    this.crossover[1] = prewarp(duckSplitHz(duck), this.sampleRateHz);
  }

  copyFrom(other: DuckStage): void {
    this.left.copyFrom(other.left);
    this.right.copyFrom(other.right);
    this.crossover[0] = other.crossover[1];
    this.section.set(other.section);
    this.last.set(other.last);
  }

  private cutoff(share: number): number {
    const open = OPEN * this.sampleRateHz;
    return prewarp(open * Math.pow(this.duck.belowHz / open, share), this.sampleRateHz);
  }

  /** Passes a step of the bass on; `share[0]` is how much of the depth is in force at its end. */
  process(
    left: Float64Array,
    right: Float64Array,
    stereo: boolean,
    frames: number,
    share: Float64Array,
  ): void {
    const { gains, last, duck, section } = this;
    if (duck.acts === 'filter' && !duck.hard) {
      section[0] = section[1];
      section[1] = this.cutoff(share[0]);
      gains[0] = Math.min(1, last[0] / COMES_IN);
      gains[1] = Math.min(1, share[0] / COMES_IN);
      this.left.close(left, frames, section, gains);
      if (stereo) this.right.close(right, frames, section, gains);
    } else {
      gains[0] = duckGain(duck, last[0]);
      gains[1] = duckGain(duck, share[0]);
      this.left.split(left, frames, this.crossover, gains);
      if (stereo) this.right.split(right, frames, this.crossover, gains);
      // A split that was set anew is there at the end of the step.
      this.crossover[0] = this.crossover[1];
    }
    last[0] = share[0];
  }
}
