import { HalfBandDown } from '../rates/half-band-down.js';
import { InnerDown, InnerUp, INNER_DELAY } from '../rates/half-band-inner.js';
import { HalfBandUp } from '../rates/half-band-up.js';
import { HALF_BAND_ROUND_TRIP } from '../rates/half-band.js';

/** Delay at low frequencies in frames: up, up again, one sample of the clip there, and down both times. */
export const DRIVE_CLIP_DELAY = HALF_BAND_ROUND_TRIP + INNER_DELAY / 2 + 0.25;

/**
 * Samples closer than this are taken as one in a quotient of differences: what that changes is under 1e-7.
 */
const CLOSE = 1e-4;
const CLOSE_TWO = 1e-3;
/** Up to here the series of asinh does. */
const SERIES_TO = 0.15;

/**
 * Soft clip x/√(1+x²) in its second-order antiderivative form, at a rate that is higher than it need be:
 * Bilbao, Esqueda, Parker and Välimäki, Antiderivative antialiasing for memoryless nonlinearities
 * (2017). With F₁ = √(1+x²) and F₂ = ½·(x·F₁ + asinh x), whose difference is found by asinh x − asinh y =
 * asinh(x·F₁(y) − y·F₁(x)).
 */
class Curve {
  /** The last two inputs, F₁ of the last, the last quotient of differences of F₂. */
  private readonly state = Float64Array.of(0, 0, 1, 1);

  reset(): void {
    this.state.set([0, 0, 1, 1]);
  }

  copyFrom(other: Curve): void {
    this.state.set(other.state);
  }

  process(samples: Float64Array, count: number): void {
    const { state } = this;
    let x1 = state[0];
    let x2 = state[1];
    let f1 = state[2];
    let before = state[3];
    for (let i = 0; i < count; i++) {
      const x = samples[i];
      const f = Math.sqrt(1 + x * x);
      const d = x - x1;
      let quotient = 0.5 * (f + f1);
      if (d > CLOSE || d < -CLOSE) {
        const w = x * f1 - x1 * f;
        const ww = w * w;
        const arc =
          ww < SERIES_TO * SERIES_TO
            ? w * (1 - ww * (1 / 6 - ww * (3 / 40 - ww * (15 / 336))))
            : w > 0
              ? Math.log(w + Math.sqrt(1 + ww))
              : -Math.log(Math.sqrt(1 + ww) - w);
        quotient = (0.5 * (x * f - x1 * f1 + arc)) / d;
      }
      const e = x - x2;
      if (e > CLOSE_TWO || e < -CLOSE_TWO) samples[i] = (2 * (quotient - before)) / e;
      else if (d > CLOSE_TWO || d < -CLOSE_TWO) samples[i] = (2 * (f - quotient)) / d;
      else {
        const middle = 0.25 * (x + 2 * x1 + x2);
        samples[i] = middle / Math.sqrt(1 + middle * middle);
      }
      before = quotient;
      x2 = x1;
      x1 = x;
      f1 = f;
    }
    state[0] = x1;
    state[1] = x2;
    state[2] = f1;
    state[3] = before;
  }
}

/**
 * The soft clip of a filter's drive, which may be far: four times oversampled, so that what folds is 70 dB
 * down even of a saw at 36 dB.
 */
export class DriveClip {
  private readonly up = new HalfBandUp();
  private readonly innerUp = new InnerUp();
  private readonly clip = new Curve();
  private readonly innerDown = new InnerDown();
  private readonly down = new HalfBandDown();
  private readonly upper: Float64Array;
  private readonly uppermost: Float64Array;

  /** @param most frames of the longest run. */
  constructor(most: number) {
    this.upper = new Float64Array(2 * most);
    this.uppermost = new Float64Array(4 * most);
  }

  reset(): void {
    this.up.reset();
    this.innerUp.reset();
    this.clip.reset();
    this.innerDown.reset();
    this.down.reset();
  }

  copyFrom(other: DriveClip): void {
    this.up.copyFrom(other.up);
    this.innerUp.copyFrom(other.innerUp);
    this.clip.copyFrom(other.clip);
    this.innerDown.copyFrom(other.innerDown);
    this.down.copyFrom(other.down);
  }

  /**
   * Clips the samples from `from` up to `to` in place, after a gain that runs evenly from `gains[0]`
   * (exclusive) to `gains[1]`, and before the gain `gains[2]`.
   */
  process(samples: Float64Array, from: number, to: number, gains: Float64Array): void {
    const { upper, uppermost } = this;
    const twice = 2 * (to - from);
    let gain = gains[0];
    const step = (gains[1] - gain) / (to - from);
    for (let i = from; i < to; i++) {
      gain += step;
      samples[i] *= gain;
    }
    this.up.process(samples, from, to, upper);
    this.innerUp.process(upper, twice, uppermost);
    this.clip.process(uppermost, 2 * twice);
    this.innerDown.process(uppermost, upper, twice);
    this.down.process(upper, samples, from, to);
    const after = gains[2];
    for (let i = from; i < to; i++) samples[i] *= after;
  }
}
