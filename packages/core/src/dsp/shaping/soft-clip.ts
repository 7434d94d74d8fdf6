/**
 * Soft clip x/√(1+x²) in its first-order antiderivative form (Parker, Zavalishin and Le Bivic, Reducing the
 * aliasing of
 * nonlinear waveshaping using continuous-time convolution, 2016): the mean of the curve between two samples
 * instead of
 * its value at one. The antiderivative is F = √(1+x²), and since x₁²−x₀² = F₁²−F₀² the quotient
 * (F₁−F₀)/(x₁−x₀) becomes
 * (x₁+x₀)/(F₁+F₀), which never divides by nothing. Delay: half a sample.
 */
export class SoftClip {
  /** Last input and its antiderivative. */
  private readonly state = Float64Array.of(0, 1);

  reset(): void {
    this.state[0] = 0;
    this.state[1] = 1;
  }

  copyFrom(other: SoftClip): void {
    this.state.set(other.state);
  }

  /**
   * Clips the samples from `from` up to `to` in place, after a gain that runs evenly from `gains[0]`
   * (exclusive) to `gains[1]`, and before the gain `gains[2]`.
   */
  process(samples: Float64Array, from: number, to: number, gains: Float64Array): void {
    const { state } = this;
    let x0 = state[0];
    let f0 = state[1];
    let gain = gains[0];
    const after = gains[2];
    const step = (gains[1] - gain) / (to - from);
    for (let i = from; i < to; i++) {
      gain += step;
      const x1 = gain * samples[i];
      const f1 = Math.sqrt(1 + x1 * x1);
      samples[i] = (after * (x1 + x0)) / (f1 + f0);
      x0 = x1;
      f0 = f1;
    }
    state[0] = x0;
    state[1] = f0;
  }
}
