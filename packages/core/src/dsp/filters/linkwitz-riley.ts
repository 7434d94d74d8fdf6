import { StateVariablePair } from './state-variable.js';

/**
 * One side of a fourth-order Linkwitz–Riley crossover: two Butterworth sections in a row, −6.02 dB at the
 * crossover; low and
 * high side sum to an allpass (Linkwitz and Riley, Active crossover networks for noncoincident drivers,
 * 1976).
 */
export class CrossoverSide {
  private readonly pair: StateVariablePair;
  private readonly numbers = Float64Array.of(0, 0, Math.SQRT2, Math.SQRT2);

  constructor(side: 'low' | 'high') {
    this.pair = new StateVariablePair(side);
  }

  copyFrom(other: CrossoverSide): void {
    this.pair.copyFrom(other.pair);
  }

  /** Filters the samples from `from` up to `to` in place; the warped crossover runs from `g[0]` to `g[1]`. */
  process(samples: Float64Array, from: number, to: number, g: Float64Array): void {
    this.numbers[0] = g[0];
    this.numbers[1] = g[1];
    this.pair.process(samples, from, to, this.numbers);
  }
}
