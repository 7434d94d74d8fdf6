import { HalfBandDown } from '../rates/half-band-down.js';
import { HalfBandUp } from '../rates/half-band-up.js';
import { HALF_BAND, HALF_BAND_ROUND_TRIP } from '../rates/half-band.js';

const A0 = HALF_BAND[0];
const A1 = HALF_BAND[2];
const A2 = HALF_BAND[4];
const B0 = HALF_BAND[1];
const B1 = HALF_BAND[3];
const B2 = HALF_BAND[5];

/**
 * Delay of the whole stage at low frequencies, rounded to frames: up, half a sample of the clip at the upper
 * rate, and down.
 */
export const SOFT_CLIP_DELAY = Math.round(HALF_BAND_ROUND_TRIP + 0.25);

/**
 * Soft clip x/√(1+x²), twice oversampled and in antiderivative form (see `SoftClip`), in one pass over the
 * samples: up by the
 * half-band's two branches, clip both samples, down by the branches again.
 */
export class SoftClipTwice {
  /** Four values for each of four branches, then the clip's last input and antiderivative. */
  private readonly state = (() => {
    const state = new Float64Array(18);
    state[17] = 1;
    return state;
  })();

  copyFrom(other: SoftClipTwice): void {
    this.state.set(other.state);
  }

  /**
   * Clips `frames` samples in place, after a gain that runs evenly from `gains[0]` (exclusive) to `gains[1]`.
   * Writes to `slopes`, two for each frame, by what the clip multiplies the sum
   * of two neighbouring samples at the upper rate; `SoftClipShare` takes them.
   */
  process(samples: Float64Array, frames: number, gains: Float64Array, slopes: Float64Array): void {
    const s = this.state;
    let p0 = s[0],
      p1 = s[1],
      p2 = s[2],
      p3 = s[3];
    let q0 = s[4],
      q1 = s[5],
      q2 = s[6],
      q3 = s[7];
    let u0 = s[8],
      u1 = s[9],
      u2 = s[10],
      u3 = s[11];
    let v0 = s[12],
      v1 = s[13],
      v2 = s[14],
      v3 = s[15];
    let x0 = s[16],
      f0 = s[17];
    let gain = gains[0];
    const step = (gains[1] - gain) / frames;
    for (let i = 0; i < frames; i++) {
      gain += step;
      const x = gain * samples[i];
      // Up: the even sample by one branch, the odd one by the other.
      const a1 = A0 * (x - p1) + p0;
      const a2 = A1 * (a1 - p2) + p1;
      const a3 = A2 * (a2 - p3) + p2;
      p0 = x;
      p1 = a1;
      p2 = a2;
      p3 = a3;
      const b1 = B0 * (x - q1) + q0;
      const b2 = B1 * (b1 - q2) + q1;
      const b3 = B2 * (b2 - q3) + q2;
      q0 = x;
      q1 = b1;
      q2 = b2;
      q3 = b3;
      // Clip both.
      const f1 = Math.sqrt(1 + a3 * a3);
      const one = 1 / (f1 + f0);
      const even = (a3 + x0) * one;
      const f2 = Math.sqrt(1 + b3 * b3);
      const two = 1 / (f2 + f1);
      const odd = (b3 + a3) * two;
      slopes[2 * i] = one;
      slopes[2 * i + 1] = two;
      x0 = b3;
      f0 = f2;
      // Down.
      const c1 = A0 * (odd - u1) + u0;
      const c2 = A1 * (c1 - u2) + u1;
      const c3 = A2 * (c2 - u3) + u2;
      u0 = odd;
      u1 = c1;
      u2 = c2;
      u3 = c3;
      const d1 = B0 * (even - v1) + v0;
      const d2 = B1 * (d1 - v2) + v1;
      const d3 = B2 * (d2 - v3) + v2;
      v0 = even;
      v1 = d1;
      v2 = d2;
      v3 = d3;
      samples[i] = 0.5 * (c3 + d3);
    }
    s[0] = p0;
    s[1] = p1;
    s[2] = p2;
    s[3] = p3;
    s[4] = q0;
    s[5] = q1;
    s[6] = q2;
    s[7] = q3;
    s[8] = u0;
    s[9] = u1;
    s[10] = u2;
    s[11] = u3;
    s[12] = v0;
    s[13] = v1;
    s[14] = v2;
    s[15] = v3;
    s[16] = x0;
    s[17] = f0;
    // Rests would otherwise sink into subnormal numbers, which are slow.
    for (let i = 0; i < 17; i++) if (s[i] < 1e-18 && s[i] > -1e-18) s[i] = 0;
  }
}

/**
 * The share of one signal in what `SoftClipTwice` makes of a sum in which it is: since the clip's
 * antiderivative form is a quotient, (x₁+x₀)/(F₁+F₀), whose
 * denominator belongs to the sum, each part has its own numerator over it, and the shares add up to the
 * whole.
 */
export class SoftClipShare {
  private readonly up = new HalfBandUp();
  private readonly down = new HalfBandDown();
  private readonly upper: Float64Array;
  private readonly last = new Float64Array(1);

  /** @param most frames of the longest block. */
  constructor(most: number) {
    this.upper = new Float64Array(2 * most);
  }

  copyFrom(other: SoftClipShare): void {
    this.up.copyFrom(other.up);
    this.down.copyFrom(other.down);
    this.last.set(other.last);
  }

  /**
   * Takes the share in place, after the same gain as the sum and with the slopes that the sum's clip wrote.
   */
  process(samples: Float64Array, frames: number, gains: Float64Array, slopes: Float64Array): void {
    const { upper } = this;
    let gain = gains[0];
    const step = (gains[1] - gain) / frames;
    for (let i = 0; i < frames; i++) {
      gain += step;
      samples[i] *= gain;
    }
    this.up.process(samples, 0, frames, upper);
    let before = this.last[0];
    for (let i = 0; i < 2 * frames; i++) {
      const x = upper[i];
      upper[i] = (x + before) * slopes[i];
      before = x;
    }
    this.last[0] = before;
    this.down.process(upper, samples, 0, frames);
  }
}
