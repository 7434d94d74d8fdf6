import { CLOSE, type Curve } from './curve.js';

/** x held between −1 and 1, first order: F = x²/2, and |x| − ½ beyond. */
export class HardCurve implements Curve {
  readonly lateSamples = 0.5;
  private readonly state = new Float64Array(2);

  at(x: number): number {
    return x > 1 ? 1 : x < -1 ? -1 : x;
  }

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: HardCurve): void {
    this.state.set(other.state);
  }

  process(samples: Float64Array, count: number): void {
    const { state } = this;
    let x0 = state[0];
    let f0 = state[1];
    for (let i = 0; i < count; i++) {
      const x = samples[i];
      const f = x > 1 ? x - 0.5 : x < -1 ? -x - 0.5 : 0.5 * x * x;
      const d = x - x0;
      if (d > CLOSE || d < -CLOSE) samples[i] = (f - f0) / d;
      else {
        const m = 0.5 * (x + x0);
        samples[i] = m > 1 ? 1 : m < -1 ? -1 : m;
      }
      x0 = x;
      f0 = f;
    }
    state[0] = x0;
    state[1] = f0;
  }
}
