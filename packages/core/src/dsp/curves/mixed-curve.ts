import type { Inner } from '../rates/oversampled.js';
import type { Curve } from './curve.js';

/** Places in what it is told: the curve's share, the gain and bias that the signal had, the gain after the curve. */
export const MIX_WET = 0;
export const MIX_GAIN = 1;
export const MIX_BIAS = 2;
export const MIX_AFTER = 3;

/** A curve beside the signal as it was before gain and bias, in step with it. */
export class MixedCurve implements Inner {
  readonly lateSamples: number;
  readonly form = Float64Array.of(1, 1, 0, 1);
  private readonly dry: Float64Array;
  private readonly last = new Float64Array(2);

  /** @param most samples of the longest run. */
  constructor(
    private readonly curve: Curve,
    most: number,
  ) {
    this.lateSamples = curve.lateSamples;
    this.dry = new Float64Array(most);
  }

  copyFrom(other: MixedCurve): void {
    this.curve.copyFrom(other.curve);
    this.last.set(other.last);
  }

  process(samples: Float64Array, count: number): void {
    const { last, dry, form } = this;
    const wet = form[MIX_WET];
    const after = form[MIX_AFTER];
    const late = this.lateSamples;
    if (wet < 1) {
      const bias = form[MIX_BIAS];
      const gain = 1 / form[MIX_GAIN];
      // As late as the curve: the sample, the mean of two, or of two such means.
      const first = late === 0 ? 1 : late === 1 ? 0.25 : 0.5;
      const middle = late === 0 ? 0 : 0.5;
      const end = late === 1 ? 0.25 : 0;
      let x1 = last[0];
      let x2 = last[1];
      for (let i = 0; i < count; i++) {
        const x = samples[i];
        dry[i] = gain * (first * x + middle * x1 + end * x2 - bias);
        x2 = x1;
        x1 = x;
      }
    }
    last[1] = count > 1 ? samples[count - 2] : last[0];
    last[0] = samples[count - 1];
    this.curve.process(samples, count);
    if (wet < 1) for (let i = 0; i < count; i++) samples[i] = dry[i] + wet * (after * samples[i] - dry[i]);
    else if (after !== 1) for (let i = 0; i < count; i++) samples[i] *= after;
  }
}
