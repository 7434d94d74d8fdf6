import { halfBandCoefficients } from '../rates/half-band.js';

/** Sections, and the lowest frequency at which both outputs stand a quarter turn apart, in hertz. */
const SECTIONS = 14;
const LOWEST_HZ = 20;

/**
 * Two outputs that stand a quarter turn apart from 20 Hz up to as much below half the rate, of the same size: a
 * half-band of two allpass branches (see `halfBandCoefficients`) turned by a quarter of the rate, as in Ansari, IIR
 * discrete-time Hilbert transformers (1987). The other sideband stays 70 dB down.
 */
export class Hilbert {
  /** For each section its input and output two samples ago and one ago. */
  private readonly state = new Float64Array(4 * SECTIONS);
  private readonly late = new Float64Array(1);
  private readonly shares: Float64Array;

  constructor(sampleRateHz: number) {
    this.shares = halfBandCoefficients(SECTIONS, LOWEST_HZ / sampleRateHz);
  }

  copyFrom(other: Hilbert): void {
    this.state.set(other.state);
    this.late.set(other.late);
  }

  /**
   * Turns the samples from `from` up to `to` in place and writes to `quarter` what lags a quarter turn behind.
   */
  process(samples: Float64Array, quarter: Float64Array, from: number, to: number): void {
    const { shares, state } = this;
    // One branch comes a sample later.
    let before = this.late[0];
    for (let i = from; i < to; i++) {
      quarter[i] = before;
      before = samples[i];
    }
    this.late[0] = before;
    for (let s = 0; s < SECTIONS; s++) {
      const block = s % 2 === 0 ? samples : quarter;
      const a = shares[s];
      const at = 4 * s;
      let x2 = state[at];
      let x1 = state[at + 1];
      let y2 = state[at + 2];
      let y1 = state[at + 3];
      for (let i = from; i < to; i++) {
        const x = block[i];
        const y = a * (x + y2) - x2;
        x2 = x1;
        x1 = x;
        y2 = y1;
        y1 = y;
        block[i] = y;
      }
      state[at] = x2;
      state[at + 1] = x1;
      state[at + 2] = y2 < 1e-18 && y2 > -1e-18 ? 0 : y2;
      state[at + 3] = y1 < 1e-18 && y1 > -1e-18 ? 0 : y1;
    }
  }
}
