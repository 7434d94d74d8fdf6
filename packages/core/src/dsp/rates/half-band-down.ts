import { branchDelay, HALF_BAND } from './half-band.js';

const A0 = HALF_BAND[0];
const A1 = HALF_BAND[2];
const A2 = HALF_BAND[4];
const B0 = HALF_BAND[1];
const B1 = HALF_BAND[3];
const B2 = HALF_BAND[5];

/**
 * Delay of the stage at low frequencies, in frames of the lower rate: the mean of its two branches, the odd
 * sample standing half a frame later.
 */
export const HALF_BAND_DOWN_DELAY = (branchDelay(HALF_BAND, 0) + branchDelay(HALF_BAND, 1)) / 2 - 0.25;

/** Halves the sample rate. */
export class HalfBandDown {
  private readonly state = new Float64Array(8);

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: HalfBandDown): void {
    this.state.set(other.state);
  }

  /**
   * Writes the samples from `from` up to `to` of `out`, from twice as many of `upper` that begin at its
   * start.
   */
  process(upper: Float64Array, out: Float64Array, from: number, to: number): void {
    const s = this.state;
    let u0 = s[0],
      u1 = s[1],
      u2 = s[2],
      u3 = s[3];
    let v0 = s[4],
      v1 = s[5],
      v2 = s[6],
      v3 = s[7];
    for (let i = from, j = 0; i < to; i++, j += 2) {
      const even = upper[j];
      const odd = upper[j + 1];
      const c1 = A0 * odd + u0 - A0 * u1;
      const c2 = A1 * c1 + u1 - A1 * u2;
      const c3 = A2 * c2 + u2 - A2 * u3;
      u0 = odd;
      u1 = c1;
      u2 = c2;
      u3 = c3;
      const d1 = B0 * even + v0 - B0 * v1;
      const d2 = B1 * d1 + v1 - B1 * v2;
      const d3 = B2 * d2 + v2 - B2 * v3;
      v0 = even;
      v1 = d1;
      v2 = d2;
      v3 = d3;
      out[i] = 0.5 * (c3 + d3);
    }
    s[0] = u0;
    s[1] = u1;
    s[2] = u2;
    s[3] = u3;
    s[4] = v0;
    s[5] = v1;
    s[6] = v2;
    s[7] = v3;
    // Rests would otherwise sink into subnormal numbers, which are slow.
    for (let i = 0; i < 8; i++) if (s[i] < 1e-18 && s[i] > -1e-18) s[i] = 0;
  }
}
