/**
 * State-variable filter by trapezoidal integration, without a delay in its loop: Zavalishin, The Art of VA Filter Design
 * (2012), chapter 4, in the form of Simper, Solving the continuous SVF equations using trapezoidal integration (2013).
 * With g = tan(π·fc/fs) and k = 1/Q its magnitude is the bilinear transform of the analogue section; it stays stable while
 * g moves at audio rate.
 */
export type FilterMode = 'low' | 'high' | 'band' | 'notch';

/** g = tan(π·fc/fs), the cutoff held below 0.49 of the sample rate. */
export function prewarp(cutoffHz: number, sampleRateHz: number): number {
  return Math.tan(Math.PI * Math.min(cutoffHz / sampleRateHz, 0.49));
}

/** Q of the two sections of a fourth-order Butterworth. */
export const BUTTERWORTH_4 = [0.5411961, 1.306563] as const;

/** What a section's output takes of its input. */
const INPUT = { low: 0, high: 1, band: 0, notch: 1 } as const;
/** What it takes of the band output, as a multiple of k: the band is 1 at its peak. */
const BAND = { low: 0, high: -1, band: 1, notch: -1 } as const;
/** What it takes of the low output. */
const LOW = { low: 1, high: -1, band: 0, notch: 0 } as const;

const quiet = (x: number) => (x < 1e-18 && x > -1e-18 ? 0 : x);

/** One section: 12 dB per octave. */
export class StateVariable {
  private readonly state = new Float64Array(2);

  constructor(private readonly mode: FilterMode) {}

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: StateVariable): void {
    this.state.set(other.state);
  }

  /** Filters the samples from `from` up to `to` in place while g runs evenly from `numbers[0]` (exclusive) to `numbers[1]`; `numbers[2]` is 1/Q. */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state, mode } = this;
    const g0 = numbers[0];
    const k = numbers[2];
    const m0 = INPUT[mode];
    const m1 = BAND[mode] * k;
    const m2 = LOW[mode];
    let s1 = state[0];
    let s2 = state[1];
    let g = g0;
    const step = (numbers[1] - g0) / (to - from);
    for (let i = from; i < to; i++) {
      g += step;
      const a = 1 / (1 + g * (g + k));
      const x = samples[i];
      const band = a * (s1 + g * (x - s2));
      const low = s2 + g * band;
      s1 = band + band - s1;
      s2 = low + low - s2;
      samples[i] = m0 * x + m1 * band + m2 * low;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
  }
}

/** Two sections in a row, run in one pass so that the second works while the first goes on: 24 dB per octave. */
export class StateVariablePair {
  private readonly state = new Float64Array(4);

  constructor(private readonly mode: FilterMode) {}

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: StateVariablePair): void {
    this.state.set(other.state);
  }

  /** Filters in place like `StateVariable`; `numbers[2]` and `numbers[3]` are 1/Q of the two sections. */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    if (numbers[0] === numbers[1]) return this.processSteady(samples, from, to, numbers);
    const { state, mode } = this;
    const g0 = numbers[0];
    const k1 = numbers[2];
    const k2 = numbers[3];
    const m0 = INPUT[mode];
    const m1 = BAND[mode] * k1;
    const m2 = LOW[mode];
    const n1 = BAND[mode] * k2;
    let s1 = state[0];
    let s2 = state[1];
    let t1 = state[2];
    let t2 = state[3];
    let g = g0;
    const step = (numbers[1] - g0) / (to - from);
    for (let i = from; i < to; i++) {
      g += step;
      const a = 1 / (1 + g * (g + k1));
      const b = 1 / (1 + g * (g + k2));
      const x = samples[i];
      const band = a * (s1 + g * (x - s2));
      const low = s2 + g * band;
      s1 = band + band - s1;
      s2 = low + low - s2;
      const y = m0 * x + m1 * band + m2 * low;
      const band2 = b * (t1 + g * (y - t2));
      const low2 = t2 + g * band2;
      t1 = band2 + band2 - t1;
      t2 = low2 + low2 - t2;
      samples[i] = m0 * y + n1 * band2 + m2 * low2;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
    state[2] = quiet(t1);
    state[3] = quiet(t2);
  }

  /** The same for a cutoff that stands still: nothing is divided within the loop. */
  private processSteady(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state, mode } = this;
    const g = numbers[0];
    const m0 = INPUT[mode];
    const m1 = BAND[mode] * numbers[2];
    const m2 = LOW[mode];
    const n1 = BAND[mode] * numbers[3];
    const a = 1 / (1 + g * (g + numbers[2]));
    const b = 1 / (1 + g * (g + numbers[3]));
    let s1 = state[0];
    let s2 = state[1];
    let t1 = state[2];
    let t2 = state[3];
    for (let i = from; i < to; i++) {
      const x = samples[i];
      const band = a * (s1 + g * (x - s2));
      const low = s2 + g * band;
      s1 = band + band - s1;
      s2 = low + low - s2;
      const y = m0 * x + m1 * band + m2 * low;
      const band2 = b * (t1 + g * (y - t2));
      const low2 = t2 + g * band2;
      t1 = band2 + band2 - t1;
      t2 = low2 + low2 - t2;
      samples[i] = m0 * y + n1 * band2 + m2 * low2;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
    state[2] = quiet(t1);
    state[3] = quiet(t2);
  }
}

/** Magnitude of one section at a frequency, from its transfer function on the warped axis (for drawing and for checks). */
export function sectionMagnitude(mode: FilterMode, hz: number, cutoffHz: number, q: number, sampleRateHz: number): number {
  const w = prewarp(hz, sampleRateHz) / prewarp(cutoffHz, sampleRateHz);
  const k = 1 / q;
  const low = 1 - w * w;
  const below = Math.hypot(low, k * w);
  const above = mode === 'low' ? 1 : mode === 'high' ? w * w : mode === 'band' ? k * w : Math.abs(low);
  return above / below;
}

/** Q of each section of a filter of 12 or 24 dB per octave whose resonance is `q` (0.71: Butterworth). */
export function sectionQs(mode: FilterMode, slope: '12' | '24', q: number): readonly number[] {
  if (slope === '12') return [q];
  return mode === 'low' || mode === 'high' ? [BUTTERWORTH_4[0], BUTTERWORTH_4[1] * q * Math.SQRT2] : [q, q];
}

/** Magnitude of a whole filter of one or two sections. */
export function filterMagnitude(mode: FilterMode, slope: '12' | '24', hz: number, cutoffHz: number, q: number, sampleRateHz: number): number {
  return sectionQs(mode, slope, q).reduce((m, sectionQ) => m * sectionMagnitude(mode, hz, cutoffHz, sectionQ, sampleRateHz), 1);
}
