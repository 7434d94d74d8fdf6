import { branchDelay, halfBandCoefficients } from './half-band.js';

/**
 * The half-band of a second doubling: nothing stands between a quarter and three quarters of its band, so
 * that three sections put what folds 80 dB down.
 */
const INNER = halfBandCoefficients(3, 0.125);
const A0 = INNER[0];
const B0 = INNER[1];
const A1 = INNER[2];

/** Delay of doubling and halving together at low frequencies, in samples of the lower rate. */
export const INNER_DELAY = branchDelay(INNER, 0) + branchDelay(INNER, 1);

const settle = (s: Float64Array) => {
  for (let i = 0; i < s.length; i++) if (s[i] < 1e-18 && s[i] > -1e-18) s[i] = 0;
};

/** Doubles a rate that is already twice as high as it need be. */
export class InnerUp {
  private readonly state = new Float64Array(5);

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: InnerUp): void {
    this.state.set(other.state);
  }

  /** Writes 2·`count` samples to `upper`. */
  process(samples: Float64Array, count: number, upper: Float64Array): void {
    const s = this.state;
    let p0 = s[0],
      p1 = s[1],
      p2 = s[2],
      q0 = s[3],
      q1 = s[4];
    for (let i = 0, j = 0; i < count; i++, j += 2) {
      const x = samples[i];
      const a = A0 * x + p0 - A0 * p1;
      const a2 = A1 * a + p1 - A1 * p2;
      p0 = x;
      p1 = a;
      p2 = a2;
      const b = B0 * x + q0 - B0 * q1;
      q0 = x;
      q1 = b;
      upper[j] = a2;
      upper[j + 1] = b;
    }
    s[0] = p0;
    s[1] = p1;
    s[2] = p2;
    s[3] = q0;
    s[4] = q1;
    settle(s);
  }
}

/** Halves it again. */
export class InnerDown {
  private readonly state = new Float64Array(5);

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: InnerDown): void {
    this.state.set(other.state);
  }

  /** Writes `count` samples from twice as many. */
  process(upper: Float64Array, samples: Float64Array, count: number): void {
    const s = this.state;
    let p0 = s[0],
      p1 = s[1],
      p2 = s[2],
      q0 = s[3],
      q1 = s[4];
    for (let i = 0, j = 0; i < count; i++, j += 2) {
      const even = upper[j];
      const odd = upper[j + 1];
      const a = A0 * odd + p0 - A0 * p1;
      const a2 = A1 * a + p1 - A1 * p2;
      p0 = odd;
      p1 = a;
      p2 = a2;
      const b = B0 * even + q0 - B0 * q1;
      q0 = even;
      q1 = b;
      samples[i] = 0.5 * (a2 + b);
    }
    s[0] = p0;
    s[1] = p1;
    s[2] = p2;
    s[3] = q0;
    s[4] = q1;
    settle(s);
  }
}
