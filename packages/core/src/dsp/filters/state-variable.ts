/**
 * State-variable filter by trapezoidal integration, without a delay in its loop: Zavalishin, The Art of VA
 * Filter Design
 * (2012), chapter 4, in the form of Simper, Solving the continuous SVF equations using trapezoidal
 * integration (2013).
 * With g = tan(π·fc/fs) and k = 1/Q its magnitude is the bilinear transform of the analogue section; it stays
 * stable while
 * g moves at audio rate.
 *
 * The loops step the two integrators by the section's equations solved for them, with a = 1/(1 + g·(g + k)) and c = 2ag:
 *
 *   s₁′ = (2a − 1)·s₁ + c·(x − s₂),   s₂′ = (1 − cg)·s₂ + c·(s₁ + g·x)
 *
 * Band and low are the means of before and after. A sample then waits for three operations on the one before, where
 * the equations in their own order have eight.
 */
export type SectionMode = 'low' | 'high' | 'band' | 'notch';

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

/**
 * How fast a mean square follows, as a share of the cutoff's own angle: it must not ripple with the wave, for
 * that would detune it.
 */
const FOLLOWS = 0.15;

/** Least 1/Q of the first of a pair that is held. */
const LEAST_FIRST = 0.05;

const quiet = (x: number) => (x < 1e-18 && x > -1e-18 ? 0 : x);

/** One section: 12 dB per octave. */
export class StateVariable {
  /** The two integrators, and the mean square of the band. */
  private readonly state = new Float64Array(3);

  constructor(private readonly mode: SectionMode) {}

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: StateVariable): void {
    this.state.set(other.state);
  }

  /**
   * Filters in place like `process`, the damping growing with the loudness of the band by `numbers[4]` times
   * its square: it clips inside its loop. The band is multiplied by `numbers[5]`.
   */
  processClipped(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state, mode } = this;
    const k0 = numbers[2];
    const more = numbers[4];
    const scale = numbers[5];
    const m0 = INPUT[mode];
    const m2 = 0.5 * LOW[mode];
    const mBand = BAND[mode];
    let s1 = state[0];
    let s2 = state[1];
    let g = numbers[0];
    const step = (numbers[1] - g) / (to - from);
    for (let i = from; i < to; i++) {
      g += step;
      const loud = s1 * s1;
      const k = k0 + more * (loud < 64 ? loud : 64);
      const a = 1 / (1 + g * (g + k));
      const c = 2 * a * g;
      const x = samples[i];
      const next1 = (a + a - 1) * s1 + c * (x - s2);
      const next2 = (1 - c * g) * s2 + c * (s1 + g * x);
      const band = 0.5 * (s1 + next1);
      samples[i] = m0 * x + mBand * (mode === 'band' ? scale : k) * band + m2 * (s2 + next2);
      s1 = next1;
      s2 = next2;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
  }

  /**
   * Filters in place like `process`, the damping growing by `numbers[4]` times the mean square of the band,
   * so that what is loud at the peak stays bounded. The mean follows within about
   * a cycle, and so the section stays linear from sample to sample. The band is multiplied by `numbers[5]`.
   */
  processHeld(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state, mode } = this;
    const k0 = numbers[2];
    const more = numbers[4];
    const scale = numbers[5];
    const m0 = INPUT[mode];
    const m2 = 0.5 * LOW[mode];
    const mBand = BAND[mode];
    let s1 = state[0];
    let s2 = state[1];
    let mean = state[2];
    let g = numbers[0];
    const step = (numbers[1] - g) / (to - from);
    for (let i = from; i < to; i++) {
      g += step;
      const k = k0 + more * (mean < 64 ? mean : 64);
      const a = 1 / (1 + g * (g + k));
      const c = 2 * a * g;
      const x = samples[i];
      const next1 = (a + a - 1) * s1 + c * (x - s2);
      const next2 = (1 - c * g) * s2 + c * (s1 + g * x);
      const band = 0.5 * (s1 + next1);
      mean += (g < 1 ? FOLLOWS * g : FOLLOWS) * (band * band - mean);
      samples[i] = m0 * x + mBand * (mode === 'band' ? scale : k) * band + m2 * (s2 + next2);
      s1 = next1;
      s2 = next2;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
    state[2] = quiet(mean);
  }

  /**
   * Filters the samples from `from` up to `to` in place while g runs evenly from `numbers[0]` (exclusive) to
   * `numbers[1]`; `numbers[2]` is 1/Q.
   */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state, mode } = this;
    const g0 = numbers[0];
    const k = numbers[2];
    const m0 = INPUT[mode];
    const m1 = 0.5 * BAND[mode] * k;
    const m2 = 0.5 * LOW[mode];
    let s1 = state[0];
    let s2 = state[1];
    let g = g0;
    const step = (numbers[1] - g0) / (to - from);
    for (let i = from; i < to; i++) {
      g += step;
      const a = 1 / (1 + g * (g + k));
      const c = 2 * a * g;
      const x = samples[i];
      const next1 = (a + a - 1) * s1 + c * (x - s2);
      const next2 = (1 - c * g) * s2 + c * (s1 + g * x);
      samples[i] = m0 * x + m1 * (s1 + next1) + m2 * (s2 + next2);
      s1 = next1;
      s2 = next2;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
  }
}

/**
 * A bell: raised or lowered at its centre, untouched elsewhere. Simper (2013), with the amplitude A = √gain.
 */
export class Bell {
  private readonly state = new Float64Array(2);

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: Bell): void {
    this.state.set(other.state);
  }

  /**
   * Filters in place while g runs from `numbers[0]` (exclusive) to `numbers[1]`; `numbers[2]` is the damping
   * of the bell's width, `numbers[3]` is A.
   */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state } = this;
    const A = numbers[3];
    const k = numbers[2] / A;
    const m1 = 0.5 * k * (A * A - 1);
    let s1 = state[0];
    let s2 = state[1];
    const step = (numbers[1] - numbers[0]) / (to - from);
    let g = step === 0 ? numbers[1] : numbers[0];
    let a = 1 / (1 + g * (g + k));
    let c = 2 * a * g;
    for (let i = from; i < to; i++) {
      if (step !== 0) {
        g += step;
        a = 1 / (1 + g * (g + k));
        c = 2 * a * g;
      }
      const x = samples[i];
      const next = (a + a - 1) * s1 + c * (x - s2);
      s2 = (1 - c * g) * s2 + c * (s1 + g * x);
      samples[i] = x + m1 * (s1 + next);
      s1 = next;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
  }
}

/** A one-pole, trapezoidal: 6 dB per octave, low or high. */
export class OnePole {
  private readonly state = new Float64Array(1);

  constructor(private readonly high: boolean) {}

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: OnePole): void {
    this.state.set(other.state);
  }

  /** Filters in place while g runs from `numbers[0]` (exclusive) to `numbers[1]`. */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { high } = this;
    let s = this.state[0];
    let g = numbers[0];
    const step = (numbers[1] - g) / (to - from);
    for (let i = from; i < to; i++) {
      g += step;
      const x = samples[i];
      const v = (x - s) * (g / (1 + g));
      const low = v + s;
      s = low + v;
      samples[i] = high ? x - low : low;
    }
    this.state[0] = quiet(s);
  }
}

/**
 * Two sections in a row, run in one pass so that the second works while the first goes on: 24 dB per octave.
 */
export class StateVariablePair {
  /** Two integrators of each, and the mean square of the second's band. */
  private readonly state = new Float64Array(5);

  constructor(private readonly mode: SectionMode) {}

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
    const m1 = 0.5 * BAND[mode] * k1;
    const m2 = 0.5 * LOW[mode];
    const n1 = 0.5 * BAND[mode] * k2;
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
      const c = 2 * a * g;
      const d = 2 * b * g;
      const x = samples[i];
      const nextS1 = (a + a - 1) * s1 + c * (x - s2);
      const nextS2 = (1 - c * g) * s2 + c * (s1 + g * x);
      const y = m0 * x + m1 * (s1 + nextS1) + m2 * (s2 + nextS2);
      const nextT1 = (b + b - 1) * t1 + d * (y - t2);
      const nextT2 = (1 - d * g) * t2 + d * (t1 + g * y);
      samples[i] = m0 * y + n1 * (t1 + nextT1) + m2 * (t2 + nextT2);
      s1 = nextS1;
      s2 = nextS2;
      t1 = nextT1;
      t2 = nextT2;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
    state[2] = quiet(t1);
    state[3] = quiet(t2);
  }

  /**
   * Filters in place, the second section's damping growing with its loudness; see
   * `StateVariable.processHeld`. The first has no more of a peak than `LEAST_FIRST` leaves it.
   */
  processHeld(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state, mode } = this;
    const k1 = numbers[2] < LEAST_FIRST ? LEAST_FIRST : numbers[2];
    const k2 = numbers[3];
    const grows = numbers[4];
    const scale = numbers[5];
    const m0 = INPUT[mode];
    const m1 = 0.5 * BAND[mode] * k1;
    const m2 = 0.5 * LOW[mode];
    const nBand = BAND[mode];
    let s1 = state[0];
    let s2 = state[1];
    let t1 = state[2];
    let t2 = state[3];
    let mean = state[4];
    let g = numbers[0];
    const step = (numbers[1] - g) / (to - from);
    for (let i = from; i < to; i++) {
      g += step;
      const k = k2 + grows * (mean < 64 ? mean : 64);
      const x = samples[i];
      const a = 1 / (1 + g * (g + k1));
      const b = 1 / (1 + g * (g + k));
      const c = 2 * a * g;
      const d = 2 * b * g;
      const nextS1 = (a + a - 1) * s1 + c * (x - s2);
      const nextS2 = (1 - c * g) * s2 + c * (s1 + g * x);
      const y = m0 * x + m1 * (s1 + nextS1) + m2 * (s2 + nextS2);
      const nextT1 = (b + b - 1) * t1 + d * (y - t2);
      const nextT2 = (1 - d * g) * t2 + d * (t1 + g * y);
      const band = 0.5 * (t1 + nextT1);
      mean += (g < 1 ? FOLLOWS * g : FOLLOWS) * (band * band - mean);
      samples[i] = m0 * y + nBand * (mode === 'band' ? scale : k) * band + m2 * (t2 + nextT2);
      s1 = nextS1;
      s2 = nextS2;
      t1 = nextT1;
      t2 = nextT2;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
    state[2] = quiet(t1);
    state[3] = quiet(t2);
    state[4] = quiet(mean);
  }

  /** The same for a cutoff that stands still: nothing is divided within the loop. */
  private processSteady(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state, mode } = this;
    const g = numbers[0];
    const m0 = INPUT[mode];
    const m1 = 0.5 * BAND[mode] * numbers[2];
    const m2 = 0.5 * LOW[mode];
    const n1 = 0.5 * BAND[mode] * numbers[3];
    const a = 1 / (1 + g * (g + numbers[2]));
    const b = 1 / (1 + g * (g + numbers[3]));
    const c = 2 * a * g;
    const d = 2 * b * g;
    const stays1 = a + a - 1;
    const stays2 = 1 - c * g;
    const stays3 = b + b - 1;
    const stays4 = 1 - d * g;
    let s1 = state[0];
    let s2 = state[1];
    let t1 = state[2];
    let t2 = state[3];
    for (let i = from; i < to; i++) {
      const x = samples[i];
      const nextS1 = stays1 * s1 + c * (x - s2);
      const nextS2 = stays2 * s2 + c * (s1 + g * x);
      const y = m0 * x + m1 * (s1 + nextS1) + m2 * (s2 + nextS2);
      const nextT1 = stays3 * t1 + d * (y - t2);
      const nextT2 = stays4 * t2 + d * (t1 + g * y);
      samples[i] = m0 * y + n1 * (t1 + nextT1) + m2 * (t2 + nextT2);
      s1 = nextS1;
      s2 = nextS2;
      t1 = nextT1;
      t2 = nextT2;
    }
    state[0] = quiet(s1);
    state[1] = quiet(s2);
    state[2] = quiet(t1);
    state[3] = quiet(t2);
  }
}
