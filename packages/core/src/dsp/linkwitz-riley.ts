import { StateVariable } from './state-variable.js';

/**
 * One side of a fourth-order Linkwitz–Riley crossover: two Butterworth sections in a row, −6.02 dB at the crossover; low and
 * high side sum to an allpass (Linkwitz and Riley, Active crossover networks for noncoincident drivers, 1976).
 */
export class CrossoverSide {
  private readonly first: StateVariable;
  private readonly second: StateVariable;

  constructor(side: 'low' | 'high') {
    this.first = new StateVariable(side);
    this.second = new StateVariable(side);
  }

  copyFrom(other: CrossoverSide): void {
    this.first.copyFrom(other.first);
    this.second.copyFrom(other.second);
  }

  process(samples: Float64Array, frames: number, g0: number, g1: number): void {
    this.first.process(samples, frames, g0, g1, Math.SQRT2);
    this.second.process(samples, frames, g0, g1, Math.SQRT2);
  }
}
