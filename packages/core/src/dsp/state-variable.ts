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

/**
 * One section. `mix` holds what its output takes of the input, the band and the low output: low 0,0,1; high 1,−k,−1;
 * band 0,k,0 (1 at its peak); notch 1,−k,0.
 */
export class StateVariable {
  private readonly state = new Float64Array(2);
  private readonly mix = new Float64Array(3);

  constructor(private readonly mode: FilterMode) {}

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: StateVariable): void {
    this.state.set(other.state);
  }

  /** Filters `frames` samples in place while g runs evenly from `g0` (exclusive) to `g1`. */
  process(samples: Float64Array, frames: number, g0: number, g1: number, k: number): void {
    const { state, mix } = this;
    mix[0] = this.mode === 'high' || this.mode === 'notch' ? 1 : 0;
    mix[1] = this.mode === 'high' || this.mode === 'notch' ? -k : this.mode === 'band' ? k : 0;
    mix[2] = this.mode === 'low' ? 1 : this.mode === 'high' ? -1 : 0;
    const m0 = mix[0];
    const m1 = mix[1];
    const m2 = mix[2];
    let s1 = state[0];
    let s2 = state[1];
    let g = g0;
    const step = (g1 - g0) / frames;
    let a1 = 1 / (1 + g * (g + k));
    for (let i = 0; i < frames; i++) {
      if (step !== 0) {
        g += step;
        a1 = 1 / (1 + g * (g + k));
      }
      const x = samples[i];
      const v3 = x - s2;
      const band = a1 * (s1 + g * v3);
      const low = s2 + g * band;
      s1 = 2 * band - s1;
      s2 = 2 * low - s2;
      samples[i] = m0 * x + m1 * band + m2 * low;
    }
    state[0] = Math.abs(s1) < 1e-18 ? 0 : s1;
    state[1] = Math.abs(s2) < 1e-18 ? 0 : s2;
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
