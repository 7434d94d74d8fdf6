import { HALF_BAND } from './half-band.js';

const A0 = HALF_BAND[0];
const A1 = HALF_BAND[2];
const A2 = HALF_BAND[4];
const B0 = HALF_BAND[1];
const B1 = HALF_BAND[3];
const B2 = HALF_BAND[5];

/** Doubles the sample rate. */
export class HalfBandUp {
  private readonly state = new Float64Array(8);

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: HalfBandUp): void {
    this.state.set(other.state);
  }

  /** Writes twice as many samples to the start of `upper` as lie between `from` and `to` of `samples`. */
  process(samples: Float64Array, from: number, to: number, upper: Float64Array): void {
    const s = this.state;
    let p0 = s[0],
      p1 = s[1],
      p2 = s[2],
      p3 = s[3];
    let q0 = s[4],
      q1 = s[5],
      q2 = s[6],
      q3 = s[7];
    for (let i = from, j = 0; i < to; i++, j += 2) {
      const x = samples[i];
      const a1 = A0 * x + p0 - A0 * p1;
      const a2 = A1 * a1 + p1 - A1 * p2;
      const a3 = A2 * a2 + p2 - A2 * p3;
      p0 = x;
      p1 = a1;
      p2 = a2;
      p3 = a3;
      const b1 = B0 * x + q0 - B0 * q1;
      const b2 = B1 * b1 + q1 - B1 * q2;
      const b3 = B2 * b2 + q2 - B2 * q3;
      q0 = x;
      q1 = b1;
      q2 = b2;
      q3 = b3;
      upper[j] = a3;
      upper[j + 1] = b3;
    }
    s[0] = p0;
    s[1] = p1;
    s[2] = p2;
    s[3] = p3;
    s[4] = q0;
    s[5] = q1;
    s[6] = q2;
    s[7] = q3;
    for (let i = 0; i < 8; i++) if (s[i] < 1e-18 && s[i] > -1e-18) s[i] = 0;
  }
}
