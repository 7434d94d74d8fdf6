import { BLOCK } from '../../../dsp/index.js';

const LINES = 8;
/** Lengths of the lines in ms at the middle size: no two have a common divisor to speak of. */
const LENGTHS_MS = [23.9, 28.3, 31.9, 37.1, 41.3, 46.7, 53.3, 59.3] as const;
/** How much shorter and longer they are at the ends of the range. */
const TIGHT = 0.7;
const VAST = 2.6;
/** Between the three bands of the decay. */
const LOW_HZ = 300;
const HIGH_HZ = 3600;
/** Allpasses in front that make many echoes of one, in ms, and their share. */
const DIFFUSE_MS = [4.77, 3.59, 12.73, 9.31] as const;
const DIFFUSES = 0.65;
/** Loudness: a decay of a second is about as loud as what goes in. */
const LEVEL = 1.1;

/** Places of a line's shelves: two integrators of each. */
const STATES = 4;
/** Numbers of a line's filter: gain, then of each shelf g's divisor, band and low shares. */
const FORM = 9;

/** Rests would otherwise sink into subnormal numbers, which are slow. */
const settled = (x: number) => (x < 1e-18 && x > -1e-18 ? 0 : x);

const isPrime = (n: number) => {
  for (let d = 3; d * d <= n; d += 2) if (n % d === 0) return false;
  return n % 2 === 1;
};

const nextPrime = (from: number) => {
  let n = Math.max(3, Math.round(from)) | 1;
  while (!isPrime(n)) n += 2;
  return n;
};

/**
 * A feedback delay network of eight lines: Jot and Chaigne, Digital delay networks for designing artificial
 * reverberators (1991). Their lengths are prime, they mix by Hadamard's matrix, which keeps the energy, and each has
 * two shelves that take from what goes round as much as its length asks for at every band's decay,
 * 10^(−3·length/(rate·decay)): no gain is above 1, so nothing can grow. Four allpasses in front make it dense
 * (Schroeder, 1962).
 */
export class FeedbackNetwork {
  private readonly lengths: readonly number[];
  private readonly rings: readonly Float64Array[];
  private readonly at = new Int32Array(1);
  private readonly mask: number;
  private readonly states = new Float64Array(LINES * STATES);
  private readonly form = new Float64Array(LINES * FORM);
  /** What comes out of each line in a block, behind its filter. */
  private readonly heard = Array.from({ length: LINES }, () => new Float64Array(BLOCK));
  private readonly diffuse: readonly Float64Array[];
  private readonly diffuseAt: Int32Array;
  /** Decays for which the filters stand, and the level. */
  private readonly seen = new Float64Array(3).fill(NaN);
  private readonly level = Float64Array.of(0);
  private readonly lowG: number;
  private readonly highG: number;

  /** @param size from tight (0) to vast (1). */
  constructor(
    size: number,
    private readonly sampleRateHz: number,
  ) {
    const scale = TIGHT * (VAST / TIGHT) ** size;
    this.lengths = LENGTHS_MS.map((ms) => nextPrime((ms / 1000) * scale * sampleRateHz));
    const longest = 2 ** Math.ceil(Math.log2(Math.max(...this.lengths) + 1));
    this.mask = longest - 1;
    this.rings = this.lengths.map(() => new Float64Array(longest));
    this.diffuse = [0, 1].flatMap((side) =>
      DIFFUSE_MS.map((ms) => new Float64Array(nextPrime((ms / 1000) * (1 + 0.07 * side) * sampleRateHz))),
    );
    this.diffuseAt = new Int32Array(this.diffuse.length);
    this.lowG = Math.tan((Math.PI * LOW_HZ) / sampleRateHz);
    this.highG = Math.tan((Math.PI * HIGH_HZ) / sampleRateHz);
  }

  copyFrom(other: FeedbackNetwork): void {
    if (other.mask !== this.mask || other.lengths[0] !== this.lengths[0]) return;
    this.rings.forEach((ring, l) => {
      ring.set(other.rings[l]);
    });
    this.diffuse.forEach((ring, l) => {
      ring.set(other.diffuse[l]);
    });
    this.at.set(other.at);
    this.diffuseAt.set(other.diffuseAt);
    this.states.set(other.states);
  }

  /** Sets the filters of all lines for the decays of lows, mids and highs in seconds. */
  private tune(decays: Float64Array): void {
    const { seen, form, lengths, sampleRateHz } = this;
    if (seen[0] === decays[0] && seen[1] === decays[1] && seen[2] === decays[2]) return;
    for (let d = 0; d < 3; d++) seen[d] = decays[d];
    for (let l = 0; l < LINES; l++) {
      const db = (-60 * lengths[l]) / sampleRateHz;
      const mid = db / decays[1];
      const low = Math.exp((Math.LN10 / 40) * (db / decays[0] - mid));
      const high = Math.exp((Math.LN10 / 40) * (db / decays[2] - mid));
      const f = l * FORM;
      form[f] = Math.exp((Math.LN10 / 20) * mid);
      const gl = this.lowG / Math.sqrt(low);
      form[f + 1] = gl;
      form[f + 2] = 1 / (1 + gl * (gl + Math.SQRT2));
      form[f + 3] = Math.SQRT2 * (low - 1);
      form[f + 4] = low * low - 1;
      const gh = this.highG * Math.sqrt(high);
      form[f + 5] = gh;
      form[f + 6] = 1 / (1 + gh * (gh + Math.SQRT2));
      form[f + 7] = Math.SQRT2 * (1 - high) * high;
      form[f + 8] = 1 - high * high;
    }
    // What stays in it on one round decides how loud it gets.
    const middle = Math.exp((Math.LN10 / 20) * ((-60 * lengths[4]) / sampleRateHz / decays[1]));
    this.level[0] = LEVEL * Math.sqrt(1 - middle * middle);
  }

  private spread(samples: Float64Array, from: number, to: number, side: number): void {
    const { diffuse, diffuseAt } = this;
    for (let d = 0; d < DIFFUSE_MS.length; d++) {
      const ring = diffuse[side * DIFFUSE_MS.length + d];
      let place = diffuseAt[side * DIFFUSE_MS.length + d];
      for (let i = from; i < to; i++) {
        const late = ring[place];
        const v = samples[i] - DIFFUSES * late;
        ring[place] = v < 1e-18 && v > -1e-18 ? 0 : v;
        samples[i] = late + DIFFUSES * v;
        place = place + 1 === ring.length ? 0 : place + 1;
      }
      diffuseAt[side * DIFFUSE_MS.length + d] = place;
    }
  }

  /**
   * Replaces both sides from `from` up to `to` by the room's answer; `decays` are those of lows, mids and highs in
   * seconds, `numbers[widthAt]` is the width in per cent.
   */
  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    decays: Float64Array,
    numbers: Float64Array,
    widthAt: number,
  ): void {
    this.tune(decays);
    this.spread(left, from, to, 0);
    this.spread(right, from, to, 1);
    const { rings, heard, mask } = this;
    const at = this.at[0];
    // No line is shorter than a block, so that what goes into one in it is not heard of it before the next.
    for (let l = 0; l < LINES; l++) this.hear(l, at, to - from);
    const width = numbers[widthAt] / 100;
    const level = this.level[0];
    const share = 1 / Math.sqrt(LINES);
    const [h0, h1, h2, h3, h4, h5, h6, h7] = heard;
    const [r0, r1, r2, r3, r4, r5, r6, r7] = rings;
    for (let i = from; i < to; i++) {
      const n = i - from;
      const place = (at + n) & mask;
      const inLeft = left[i];
      const inRight = right[i];
      const a = h0[n] - h2[n] + h4[n] - h6[n];
      const b = h1[n] - h3[n] + h5[n] - h7[n];
      const middle = 0.5 * (a + b);
      const side = 0.5 * width * (a - b);
      left[i] = level * (middle + side) * 0.5;
      right[i] = level * (middle - side) * 0.5;
      // Hadamard's matrix by three rounds of sums and differences.
      const a0 = h0[n] + h1[n];
      const a1 = h0[n] - h1[n];
      const a2 = h2[n] + h3[n];
      const a3 = h2[n] - h3[n];
      const a4 = h4[n] + h5[n];
      const a5 = h4[n] - h5[n];
      const a6 = h6[n] + h7[n];
      const a7 = h6[n] - h7[n];
      const b0 = a0 + a2;
      const b1 = a1 + a3;
      const b2 = a0 - a2;
      const b3 = a1 - a3;
      const b4 = a4 + a6;
      const b5 = a5 + a7;
      const b6 = a4 - a6;
      const b7 = a5 - a7;
      r0[place] = share * (b0 + b4) + inLeft;
      r1[place] = share * (b1 + b5) - inRight;
      r2[place] = share * (b2 + b6) + inLeft;
      r3[place] = share * (b3 + b7) + inRight;
      r4[place] = share * (b0 - b4) - inLeft;
      r5[place] = share * (b1 - b5) + inRight;
      r6[place] = share * (b2 - b6) - inLeft;
      r7[place] = share * (b3 - b7) - inRight;
    }
    this.at[0] = (at + to - from) & mask;
  }

  /** Runs a line's filter over what comes out of the line in the next `frames`. */
  private hear(l: number, at: number, frames: number): void {
    const { lengths, states, form, mask } = this;
    const ring = this.rings[l];
    const heard = this.heard[l];
    const f = l * FORM;
    const s = l * STATES;
    const gain = form[f];
    const lowG = form[f + 1];
    const lowD = form[f + 2];
    const lowBand = 0.5 * form[f + 3];
    const lowLow = 0.5 * form[f + 4];
    const highG = form[f + 5];
    const highD = form[f + 6];
    const highBand = 0.5 * form[f + 7];
    const highLow = 0.5 * form[f + 8];
    const highDirect = 1 - form[f + 8];
    // As `StateVariable` steps its integrators.
    const lowC = 2 * lowD * lowG;
    const lowStays1 = lowD + lowD - 1;
    const lowStays2 = 1 - lowC * lowG;
    const highC = 2 * highD * highG;
    const highStays1 = highD + highD - 1;
    const highStays2 = 1 - highC * highG;
    let s0 = states[s];
    let s1 = states[s + 1];
    let s2 = states[s + 2];
    let s3 = states[s + 3];
    const start = at - lengths[l];
    for (let n = 0; n < frames; n++) {
      const x = gain * ring[(start + n) & mask];
      const next0 = lowStays1 * s0 + lowC * (x - s1);
      const next1 = lowStays2 * s1 + lowC * (s0 + lowG * x);
      const v = x + lowBand * (s0 + next0) + lowLow * (s1 + next1);
      s0 = next0;
      s1 = next1;
      const next2 = highStays1 * s2 + highC * (v - s3);
      const next3 = highStays2 * s3 + highC * (s2 + highG * v);
      const y = highDirect * v + highBand * (s2 + next2) + highLow * (s3 + next3);
      s2 = next2;
      s3 = next3;
      heard[n] = y < 1e-15 && y > -1e-15 ? 0 : y;
    }
    states[s] = settled(s0);
    states[s + 1] = settled(s1);
    states[s + 2] = settled(s2);
    states[s + 3] = settled(s3);
  }
}
