import { BLOCK } from '../base/chunk.js';

/** 1/Q of a Butterworth section. */
const K = Math.SQRT2;
const HALF_K = K / 2;

/**
 * A fourth-order Linkwitz–Riley crossover, both sides at once: the first section gives a Butterworth low and
 * high, each goes through another (Linkwitz and Riley, Active crossover networks for noncoincident drivers,
 * 1976). Trapezoidal sections, stepped as `StateVariable` says; the two sides sum to an allpass.
 */
export class Crossover {
  private readonly state = new Float64Array(6);

  copyFrom(other: Crossover): void {
    this.state.set(other.state);
  }

  /**
   * Writes the samples' lows to `low` and leaves their highs in place; the warped crossover runs from `g[0]`
   * (exclusive) to `g[1]`.
   */
  process(samples: Float64Array, low: Float64Array, from: number, to: number, g: Float64Array): void {
    const s = this.state;
    let a1 = s[0];
    let a2 = s[1];
    let l1 = s[2];
    let l2 = s[3];
    let h1 = s[4];
    let h2 = s[5];
    let w = g[0];
    const step = (g[1] - w) / (to - from);
    // A crossover that stands still is all there is to it in most steps: nothing is divided in them.
    let d = 1 / (1 + w * (w + K));
    let c = 2 * d * w;
    let stays1 = d + d - 1;
    let stays2 = 1 - c * w;
    for (let i = from; i < to; i++) {
      if (step !== 0) {
        w += step;
        d = 1 / (1 + w * (w + K));
        c = 2 * d * w;
        stays1 = d + d - 1;
        stays2 = 1 - c * w;
      }
      const x = samples[i];
      const nextA1 = stays1 * a1 + c * (x - a2);
      const nextA2 = stays2 * a2 + c * (a1 + w * x);
      const lowpass = 0.5 * (a2 + nextA2);
      const highpass = x - HALF_K * (a1 + nextA1) - lowpass;
      a1 = nextA1;
      a2 = nextA2;
      const nextL1 = stays1 * l1 + c * (lowpass - l2);
      const nextL2 = stays2 * l2 + c * (l1 + w * lowpass);
      low[i] = 0.5 * (l2 + nextL2);
      l1 = nextL1;
      l2 = nextL2;
      const nextH1 = stays1 * h1 + c * (highpass - h2);
      const nextH2 = stays2 * h2 + c * (h1 + w * highpass);
      samples[i] = highpass - HALF_K * (h1 + nextH1) - 0.5 * (h2 + nextH2);
      h1 = nextH1;
      h2 = nextH2;
    }
    s[0] = a1;
    s[1] = a2;
    s[2] = l1;
    s[3] = l2;
    s[4] = h1;
    s[5] = h2;
    settle(s);
  }
}

/** The allpass to which both sides of a crossover sum. */
export class CrossoverAllpass {
  private readonly state = new Float64Array(2);

  copyFrom(other: CrossoverAllpass): void {
    this.state.set(other.state);
  }

  /** Filters in place; the warped crossover runs from `g[0]` (exclusive) to `g[1]`. */
  process(samples: Float64Array, from: number, to: number, g: Float64Array): void {
    const s = this.state;
    let a1 = s[0];
    let a2 = s[1];
    let w = g[0];
    const step = (g[1] - w) / (to - from);
    let d = 1 / (1 + w * (w + K));
    let c = 2 * d * w;
    for (let i = from; i < to; i++) {
      if (step !== 0) {
        w += step;
        d = 1 / (1 + w * (w + K));
        c = 2 * d * w;
      }
      const x = samples[i];
      const next = (d + d - 1) * a1 + c * (x - a2);
      a2 = (1 - c * w) * a2 + c * (a1 + w * x);
      samples[i] = x - K * (a1 + next);
      a1 = next;
    }
    s[0] = a1;
    s[1] = a2;
    settle(s);
  }
}

/** Rests would otherwise sink into subnormal numbers, which are slow. */
function settle(state: Float64Array): void {
  for (let i = 0; i < state.length; i++) if (state[i] < 1e-18 && state[i] > -1e-18) state[i] = 0;
}

/**
 * Splits a signal into bands that sum flat: it is cut at the lowest crossover, what is above at the next, and so
 * on; every band goes through the allpasses of the crossovers that it did not meet, so that all are in step and
 * their sum is one allpass.
 */
export class BandSplit {
  /** The bands of the last run, deepest first. */
  readonly bands: readonly Float64Array[];
  private readonly crossovers: readonly Crossover[];
  /** Of each band but the two highest, the allpasses of the crossovers above its own. */
  private readonly allpasses: readonly (readonly CrossoverAllpass[])[];

  /** @param count bands, 1 or more. */
  constructor(count: number) {
    this.bands = Array.from({ length: count }, () => new Float64Array(BLOCK));
    this.crossovers = Array.from({ length: count - 1 }, () => new Crossover());
    this.allpasses = this.crossovers.map((_, c) =>
      Array.from({ length: count - 2 - c }, () => new CrossoverAllpass()),
    );
  }

  copyFrom(other: BandSplit): void {
    this.crossovers.forEach((crossover, c) => {
      if (c < other.crossovers.length) crossover.copyFrom(other.crossovers[c]);
    });
    this.allpasses.forEach((each, c) => {
      each.forEach((allpass, a) => {
        const from = other.allpasses[c]?.[a];
        if (from) allpass.copyFrom(from);
      });
    });
  }

  /**
   * Splits the samples from `from` up to `to`; `crossings` holds, for each crossover, where it stands warped at
   * the start of the run and at its end.
   */
  process(samples: Float64Array, from: number, to: number, crossings: readonly Float64Array[]): void {
    const { bands, crossovers, allpasses } = this;
    const highest = bands[bands.length - 1];
    for (let i = from; i < to; i++) highest[i] = samples[i];
    for (let c = 0; c < crossovers.length; c++) {
      crossovers[c].process(highest, bands[c], from, to, crossings[c]);
      const after = allpasses[c];
      for (let a = 0; a < after.length; a++) after[a].process(bands[c], from, to, crossings[c + 1 + a]);
    }
  }
}
