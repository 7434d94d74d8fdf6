import { kaiser, kaiserBeta } from './windows.js';

/** Half of the filter's length: 63 taps, of which 32 beside the middle are not 0. Stop band −80 dB from 0.292 of the upper rate. */
const HALF = 31;
const PAIRS = 16;

/** The taps at odd distances 1, 3, … 31 from the middle; the middle is 0.5 and the even ones are 0. */
const TAPS = (() => {
  const window = kaiser(2 * HALF + 1, kaiserBeta(80));
  const taps = new Float64Array(PAIRS);
  let sum = 0;
  for (let p = 0; p < PAIRS; p++) {
    const d = 2 * p + 1;
    taps[p] = (window[HALF + d] * Math.sin((Math.PI * d) / 2)) / (Math.PI * d);
    sum += 2 * taps[p];
  }
  for (let p = 0; p < PAIRS; p++) taps[p] *= 0.5 / sum;
  return taps;
})();

/** Delay of `UpTwice` followed by `DownTwice`, in frames of the lower rate. */
export const TWICE_DELAY = HALF;

const RING = 64;
const MASK = RING - 1;

/** Doubles the sample rate with a linear-phase half-band FIR (Crochiere and Rabiner, 1983). */
export class UpTwice {
  /** Past input, written twice so that a run of RING values can be read without wrapping. */
  private readonly past = new Float64Array(2 * RING);
  private readonly at = new Int32Array(1);

  copyFrom(other: UpTwice): void {
    this.past.set(other.past);
    this.at[0] = other.at[0];
  }

  /** Reads `frames` samples of `input`, writes twice as many to `output`. */
  process(input: Float64Array, output: Float64Array, frames: number): void {
    const { past } = this;
    let at = this.at[0];
    for (let i = 0; i < frames; i++) {
      at = (at + 1) & MASK;
      past[at] = input[i];
      past[at + RING] = input[i];
      // The newest input stands at top; the pair p lies p + 1 to each side of the middle of the 32 newest.
      const top = at + RING;
      let sum = 0;
      for (let p = 0; p < PAIRS; p++) sum += TAPS[p] * (past[top - 15 + p] + past[top - 16 - p]);
      output[2 * i] = 2 * sum;
      output[2 * i + 1] = past[top - 15];
    }
    this.at[0] = at;
  }
}

/** Halves the sample rate with the same filter. */
export class DownTwice {
  private readonly odd = new Float64Array(2 * RING);
  private readonly even = new Float64Array(2 * RING);
  private readonly at = new Int32Array(1);

  copyFrom(other: DownTwice): void {
    this.odd.set(other.odd);
    this.even.set(other.even);
    this.at[0] = other.at[0];
  }

  /** Reads twice `frames` samples of `input`, writes `frames` to `output`. */
  process(input: Float64Array, output: Float64Array, frames: number): void {
    const { odd, even } = this;
    let at = this.at[0];
    for (let i = 0; i < frames; i++) {
      at = (at + 1) & MASK;
      const first = input[2 * i];
      const second = input[2 * i + 1];
      even[at] = first;
      even[at + RING] = first;
      odd[at] = second;
      odd[at + RING] = second;
      const top = at + RING;
      let sum = 0.5 * odd[top - 16];
      for (let p = 0; p < PAIRS; p++) sum += TAPS[p] * (even[top - 15 + p] + even[top - 16 - p]);
      output[i] = sum;
    }
    this.at[0] = at;
  }
}
