import { CLOSE, type Curve } from './curve.js';

/** Where the knee ends. */
const END = 1.5;
const CUBE = 4 / 27;
const F_END = END ** 2 / 2 - (CUBE / 4) * END ** 4;

/** A soft knee that ends: x − (4/27)·x³ up to 1.5, where it has come to ±1 without a corner. First order. */
export class TapeCurve implements Curve {
  readonly lateSamples = 0.5;
  private readonly state = new Float64Array(2);

  at(x: number): number {
    return x > END ? 1 : x < -END ? -1 : x - CUBE * x ** 3;
  }

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: TapeCurve): void {
    this.state.set(other.state);
  }

  process(samples: Float64Array, count: number): void {
    const { state } = this;
    let x0 = state[0];
    let f0 = state[1];
    for (let i = 0; i < count; i++) {
      const x = samples[i];
      const size = x < 0 ? -x : x;
      const square = x * x;
      const f = size > END ? F_END + size - END : square * (0.5 - 0.25 * CUBE * square);
      const d = x - x0;
      if (d > CLOSE || d < -CLOSE) samples[i] = (f - f0) / d;
      else {
        const m = 0.5 * (x + x0);
        samples[i] = m > END ? 1 : m < -END ? -1 : m - CUBE * m * m * m;
      }
      x0 = x;
      f0 = f;
    }
    state[0] = x0;
    state[1] = f0;
  }
}
