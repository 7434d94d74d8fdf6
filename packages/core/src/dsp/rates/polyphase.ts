import { branchDelay } from './half-band.js';

/**
 * A half-band of any number of sections, up or down; what `HalfBandUp` and `HalfBandDown` are for six. The even
 * sections stand in one branch, the odd ones in the other.
 */
abstract class Polyphase {
  /** Delay of doubling and halving together at low frequencies, in samples of the lower rate. */
  readonly lateSamples: number;
  protected readonly even: Float64Array;
  protected readonly odd: Float64Array;
  /** Inputs and outputs of the sections of each branch: what goes into the first, then what comes out of each. */
  protected readonly evens: Float64Array;
  protected readonly odds: Float64Array;

  /** @param coefficients as `halfBandCoefficients` gives them. */
  constructor(coefficients: Float64Array) {
    this.even = coefficients.filter((_, i) => i % 2 === 0);
    this.odd = coefficients.filter((_, i) => i % 2 === 1);
    this.evens = new Float64Array(this.even.length + 1);
    this.odds = new Float64Array(this.odd.length + 1);
    this.lateSamples = branchDelay(coefficients, 0) + branchDelay(coefficients, 1);
  }

  reset(): void {
    this.evens.fill(0);
    this.odds.fill(0);
  }

  copyFrom(other: Polyphase): void {
    this.evens.set(other.evens);
    this.odds.set(other.odds);
  }

  /** Rests would otherwise sink into subnormal numbers, which are slow. */
  protected settle(): void {
    const { evens, odds } = this;
    for (let i = 0; i < evens.length; i++) if (evens[i] < 1e-18 && evens[i] > -1e-18) evens[i] = 0;
    for (let i = 0; i < odds.length; i++) if (odds[i] < 1e-18 && odds[i] > -1e-18) odds[i] = 0;
  }
}

export class PolyphaseUp extends Polyphase {
  /** Writes twice as many samples to the start of `upper` as lie between `from` and `to` of `samples`. */
  process(samples: Float64Array, from: number, to: number, upper: Float64Array): void {
    const { even, odd, evens, odds } = this;
    for (let i = from, j = 0; i < to; i++, j += 2) {
      let x = samples[i];
      let before = evens[0];
      evens[0] = x;
      for (let s = 0; s < even.length; s++) {
        x = even[s] * (x - evens[s + 1]) + before;
        before = evens[s + 1];
        evens[s + 1] = x;
      }
      upper[j] = x;
      x = samples[i];
      before = odds[0];
      odds[0] = x;
      for (let s = 0; s < odd.length; s++) {
        x = odd[s] * (x - odds[s + 1]) + before;
        before = odds[s + 1];
        odds[s + 1] = x;
      }
      upper[j + 1] = x;
    }
    this.settle();
  }
}

export class PolyphaseDown extends Polyphase {
  /** Writes the samples from `from` up to `to`, from twice as many of `upper` that begin at its start. */
  process(upper: Float64Array, samples: Float64Array, from: number, to: number): void {
    const { even, odd, evens, odds } = this;
    for (let i = from, j = 0; i < to; i++, j += 2) {
      let x = upper[j + 1];
      let before = evens[0];
      evens[0] = x;
      for (let s = 0; s < even.length; s++) {
        x = even[s] * (x - evens[s + 1]) + before;
        before = evens[s + 1];
        evens[s + 1] = x;
      }
      let y = upper[j];
      before = odds[0];
      odds[0] = y;
      for (let s = 0; s < odd.length; s++) {
        y = odd[s] * (y - odds[s + 1]) + before;
        before = odds[s + 1];
        odds[s + 1] = y;
      }
      samples[i] = 0.5 * (x + y);
    }
    this.settle();
  }
}
