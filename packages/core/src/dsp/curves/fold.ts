import { CLOSE, CLOSE_TWO, type Curve } from './curve.js';

/** The triangle that 1 and −1 fold x into. */
const folded = (x: number) => {
  const u = x - 4 * Math.floor((x + 1) / 4);
  return u <= 1 ? u : 2 - u;
};

/**
 * x folded back at 1 and −1, again and again: a triangle of period 4. Second order. With u from −1 to 3 in its
 * period, the first antiderivative is u²/2 up to 1 and 1 − (2−u)²/2 beyond, the second u³/6 and u − 1 + (2−u)³/6;
 * it grows by 2 with each period.
 */
export class FoldCurve implements Curve {
  readonly lateSamples = 1;
  /** The last two inputs, the second antiderivative of the last, the last quotient of differences. */
  private readonly state = new Float64Array(4);

  at(x: number): number {
    return folded(x);
  }

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: FoldCurve): void {
    this.state.set(other.state);
  }

  process(samples: Float64Array, count: number): void {
    const { state } = this;
    let x1 = state[0];
    let x2 = state[1];
    let g1 = state[2];
    let before = state[3];
    for (let i = 0; i < count; i++) {
      const x = samples[i];
      const turn = Math.floor((x + 1) / 4);
      const u = x - 4 * turn;
      const g = 2 * turn + (u <= 1 ? (u * u * u) / 6 : u - 1 + ((2 - u) * (2 - u) * (2 - u)) / 6);
      const d = x - x1;
      let quotient: number;
      if (d > CLOSE || d < -CLOSE) quotient = (g - g1) / d;
      else {
        const m = 0.5 * (x + x1);
        const v = m - 4 * Math.floor((m + 1) / 4);
        quotient = v <= 1 ? 0.5 * v * v : 1 - 0.5 * (2 - v) * (2 - v);
      }
      const e = x - x2;
      if (e > CLOSE_TWO || e < -CLOSE_TWO) samples[i] = (2 * (quotient - before)) / e;
      else if (d > CLOSE_TWO || d < -CLOSE_TWO) {
        // The input came back to where it was two samples ago.
        const first = u <= 1 ? 0.5 * u * u : 1 - 0.5 * (2 - u) * (2 - u);
        samples[i] = (2 * (first - quotient)) / d;
      } else {
        const m = 0.25 * (x + 2 * x1 + x2);
        const v = m - 4 * Math.floor((m + 1) / 4);
        samples[i] = v <= 1 ? v : 2 - v;
      }
      before = quotient;
      x2 = x1;
      x1 = x;
      g1 = g;
    }
    state[0] = x1;
    state[1] = x2;
    state[2] = g1;
    state[3] = before;
  }
}
