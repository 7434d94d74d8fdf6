import { StateVariablePair } from './state-variable.js';

/**
 * One side of a fourth-order Linkwitz–Riley crossover: two Butterworth sections in a row, −6.02 dB at the crossover; low and
 * high side sum to an allpass (Linkwitz and Riley, Active crossover networks for noncoincident drivers, 1976).
 */
export class CrossoverSide {
  private readonly pair: StateVariablePair;

  constructor(side: 'low' | 'high') {
    this.pair = new StateVariablePair(side);
  }

  copyFrom(other: CrossoverSide): void {
    this.pair.copyFrom(other.pair);
  }

  process(samples: Float64Array, frames: number, g0: number, g1: number): void {
    this.pair.process(samples, 0, frames, g0, g1, Math.SQRT2, Math.SQRT2);
  }
}
