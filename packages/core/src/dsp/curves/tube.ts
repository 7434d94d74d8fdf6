import type { Curve } from './curve.js';

/**
 * x/√(1+x²) above 0 and x/√(1+(x/a)²), which goes no further than −a, below: the less a, the more even
 * harmonics. First order, with F = √(1+x²) − 1 and a²·(√(1+(x/a)²) − 1); on one side the quotient is taken as
 * that of `SoftCurve`, across 0 it is (F₁−F₀)/(x₁−x₀).
 */
export class TubeCurve implements Curve {
  readonly lateSamples = 0.5;
  /** The last input, and √(1 + (x/a)²) for it. */
  private readonly state = Float64Array.of(0, 1);
  private readonly least = Float64Array.of(1);

  /** @param numbers a, above 0 and up to 1. */
  set(numbers: Float64Array): void {
    if (numbers[0] === this.least[0]) return;
    this.least[0] = numbers[0];
    const [x] = this.state;
    this.state[1] = x < 0 ? Math.sqrt(1 + (x / numbers[0]) ** 2) : Math.sqrt(1 + x * x);
  }

  at(x: number): number {
    return x < 0 ? x / Math.sqrt(1 + (x / this.least[0]) ** 2) : x / Math.sqrt(1 + x * x);
  }

  reset(): void {
    this.state.set([0, 1]);
  }

  copyFrom(other: TubeCurve): void {
    this.state.set(other.state);
    this.least.set(other.least);
  }

  process(samples: Float64Array, count: number): void {
    const { state } = this;
    const a = this.least[0];
    const inverse = 1 / a;
    let x0 = state[0];
    let r0 = state[1];
    for (let i = 0; i < count; i++) {
      const x = samples[i];
      const u = x < 0 ? inverse * x : x;
      const r = Math.sqrt(1 + u * u);
      if (x < 0 === x0 < 0) samples[i] = (x + x0) / (r + r0);
      else {
        const f = x < 0 ? a * a * (r - 1) : r - 1;
        const f0 = x0 < 0 ? a * a * (r0 - 1) : r0 - 1;
        samples[i] = (f - f0) / (x - x0);
      }
      x0 = x;
      r0 = r;
    }
    state[0] = x0;
    state[1] = r0;
  }
}
