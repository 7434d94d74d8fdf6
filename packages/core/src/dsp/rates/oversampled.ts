import { HalfBandDown } from './half-band-down.js';
import { InnerDown, InnerUp, INNER_DELAY } from './half-band-inner.js';
import { HalfBandUp } from './half-band-up.js';
import { HALF_BAND_ROUND_TRIP, halfBandCoefficients } from './half-band.js';
import { PartDelay } from './part-delay.js';
import { PolyphaseDown, PolyphaseUp } from './polyphase.js';

/** What works at a higher rate, in place. */
export interface Inner {
  /** Samples by which it comes late. */
  readonly lateSamples: number;
  process(samples: Float64Array, count: number): void;
}

/**
 * Runs something at a multiple of the sample rate: up by half-bands, and down again. Without it in between the
 * way is an allpass. It comes late by whole frames.
 */
export interface Oversampled {
  /** Frames by which it comes late, at low frequencies exactly. */
  readonly lateFrames: number;
  reset(): void;
  copyFrom(other: Oversampled): void;
  /** Runs the samples from `from` up to `to` through it, in place. */
  process(samples: Float64Array, from: number, to: number): void;
}

/** Not oversampled at all. */
export class AsItIs implements Oversampled {
  readonly lateFrames = 0;
  private readonly block: Float64Array;

  /** @param most frames of the longest run. */
  constructor(
    private readonly inner: Inner,
    most: number,
  ) {
    this.block = new Float64Array(most);
  }

  reset(): void {
    // What it runs is reset by whoever made it.
  }

  copyFrom(): void {
    // It remembers nothing.
  }

  process(samples: Float64Array, from: number, to: number): void {
    const { block } = this;
    for (let i = from; i < to; i++) block[i - from] = samples[i];
    this.inner.process(block, to - from);
    for (let i = from; i < to; i++) samples[i] = block[i - from];
  }
}

/** Four times. */
export class FourTimes implements Oversampled {
  readonly lateFrames: number;
  private readonly up = new HalfBandUp();
  private readonly innerUp = new InnerUp();
  private readonly innerDown = new InnerDown();
  private readonly down = new HalfBandDown();
  private readonly rest: PartDelay;
  private readonly upper: Float64Array;
  private readonly uppermost: Float64Array;

  /** @param most frames of the longest run. */
  constructor(
    private readonly inner: Inner,
    most: number,
  ) {
    this.upper = new Float64Array(2 * most);
    this.uppermost = new Float64Array(4 * most);
    this.rest = new PartDelay(HALF_BAND_ROUND_TRIP + INNER_DELAY / 2 + inner.lateSamples / 4);
    this.lateFrames = this.rest.lateFrames;
  }

  reset(): void {
    for (const part of [this.up, this.innerUp, this.innerDown, this.down, this.rest]) part.reset();
  }

  copyFrom(other: FourTimes): void {
    this.up.copyFrom(other.up);
    this.innerUp.copyFrom(other.innerUp);
    this.innerDown.copyFrom(other.innerDown);
    this.down.copyFrom(other.down);
    this.rest.copyFrom(other.rest);
  }

  process(samples: Float64Array, from: number, to: number): void {
    const { upper, uppermost } = this;
    const twice = 2 * (to - from);
    this.up.process(samples, from, to, upper);
    this.innerUp.process(upper, twice, uppermost);
    this.inner.process(uppermost, 2 * twice);
    this.innerDown.process(uppermost, upper, twice);
    this.down.process(upper, samples, from, to);
    this.rest.process(samples, from, to);
  }
}

/**
 * The half-bands of the first two of three doublings: what folds is 100 dB down, for what is folded over and over is
 * mostly made above what is heard.
 */
const OUTER = halfBandCoefficients(8, 0.0417);
const MIDDLE = halfBandCoefficients(6, 0.125);

/** Eight times, with steeper half-bands. */
export class EightTimes implements Oversampled {
  readonly lateFrames: number;
  private readonly outerUp = new PolyphaseUp(OUTER);
  private readonly middleUp = new PolyphaseUp(MIDDLE);
  private readonly innerUp = new InnerUp();
  private readonly innerDown = new InnerDown();
  private readonly middleDown = new PolyphaseDown(MIDDLE);
  private readonly outerDown = new PolyphaseDown(OUTER);
  private readonly rest: PartDelay;
  private readonly twice: Float64Array;
  private readonly fourTimes: Float64Array;
  private readonly eightTimes: Float64Array;

  /** @param most frames of the longest run. */
  constructor(
    private readonly inner: Inner,
    most: number,
  ) {
    this.twice = new Float64Array(2 * most);
    this.fourTimes = new Float64Array(4 * most);
    this.eightTimes = new Float64Array(8 * most);
    const late = this.outerUp.lateSamples + this.middleUp.lateSamples / 2 + INNER_DELAY / 4;
    this.rest = new PartDelay(late + inner.lateSamples / 8);
    this.lateFrames = this.rest.lateFrames;
  }

  private get parts() {
    return [
      this.outerUp,
      this.middleUp,
      this.innerUp,
      this.innerDown,
      this.middleDown,
      this.outerDown,
      this.rest,
    ];
  }

  reset(): void {
    for (const part of this.parts) part.reset();
  }

  copyFrom(other: EightTimes): void {
    this.outerUp.copyFrom(other.outerUp);
    this.middleUp.copyFrom(other.middleUp);
    this.innerUp.copyFrom(other.innerUp);
    this.innerDown.copyFrom(other.innerDown);
    this.middleDown.copyFrom(other.middleDown);
    this.outerDown.copyFrom(other.outerDown);
    this.rest.copyFrom(other.rest);
  }

  process(samples: Float64Array, from: number, to: number): void {
    const { twice, fourTimes, eightTimes } = this;
    const count = to - from;
    this.outerUp.process(samples, from, to, twice);
    this.middleUp.process(twice, 0, 2 * count, fourTimes);
    this.innerUp.process(fourTimes, 4 * count, eightTimes);
    this.inner.process(eightTimes, 8 * count);
    this.innerDown.process(eightTimes, fourTimes, 4 * count);
    this.middleDown.process(fourTimes, twice, 0, 2 * count);
    this.outerDown.process(twice, samples, from, to);
    this.rest.process(samples, from, to);
  }
}
