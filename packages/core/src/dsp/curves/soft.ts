import type { Curve } from './curve.js';

/**
 * x/√(1+x²), first order. The antiderivative is F = √(1+x²), and since x₁²−x₀² = F₁²−F₀² the quotient is
 * (x₁+x₀)/(F₁+F₀), which never divides by nothing.
 */
export class SoftCurve implements Curve {
  readonly lateSamples = 0.5;
  private readonly state = Float64Array.of(0, 1);

  at(x: number): number {
    return x / Math.sqrt(1 + x * x);
  }

  reset(): void {
    this.state.set([0, 1]);
  }

  copyFrom(other: SoftCurve): void {
    this.state.set(other.state);
  }

  process(samples: Float64Array, count: number): void {
    const { state } = this;
    let x0 = state[0];
    let f0 = state[1];
    for (let i = 0; i < count; i++) {
      const x = samples[i];
      const f = Math.sqrt(1 + x * x);
      samples[i] = (x + x0) / (f + f0);
      x0 = x;
      f0 = f;
    }
    state[0] = x0;
    state[1] = f0;
  }
}
