import { CLOSE, type Curve } from './curve.js';

const HALF_PI = Math.PI / 2;

/** sin(πx/2): x folded back at 1 and −1 without corners. First order, with F = −(2/π)·cos(πx/2). */
export class SineFoldCurve implements Curve {
  readonly lateSamples = 0.5;
  private readonly state = Float64Array.of(0, -1 / HALF_PI);

  at(x: number): number {
    return Math.sin(HALF_PI * x);
  }

  reset(): void {
    this.state.set([0, -1 / HALF_PI]);
  }

  copyFrom(other: SineFoldCurve): void {
    this.state.set(other.state);
  }

  process(samples: Float64Array, count: number): void {
    const { state } = this;
    let x0 = state[0];
    let f0 = state[1];
    for (let i = 0; i < count; i++) {
      const x = samples[i];
      const f = -Math.cos(HALF_PI * x) / HALF_PI;
      const d = x - x0;
      samples[i] = d > CLOSE || d < -CLOSE ? (f - f0) / d : Math.sin(HALF_PI * 0.5 * (x + x0));
      x0 = x;
      f0 = f;
    }
    state[0] = x0;
    state[1] = f0;
  }
}
