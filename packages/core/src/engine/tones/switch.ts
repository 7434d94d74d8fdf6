import type { Way } from '../../document/index.js';
import {
  EDGE_AGE,
  EDGE_HEIGHT,
  EDGE_SLOPE,
  prewarp,
  STEP_DELAY,
  StateVariable,
  StepCorrector,
} from '../../dsp/index.js';
import { cubicThrough } from './cubic.js';
import { EdgeFinder } from './edge-finder.js';

/**
 * Delay of what has edges, in samples of the upper rate: the correction's own, and what the finder looks
 * ahead.
 */
export const SWITCH_DELAY = STEP_DELAY + 1;
const RING = 64;
const SILENCE = new Float64Array(64);

/**
 * Waves are made this dull before their edges are looked for, in hertz: what is smooth from sample to sample
 * can be read between them.
 */
const DULL_HZ = 5000;

/** A wave made dull, for finding edges and for steering: a second-order low-pass. */
export class Dull {
  readonly wave = new Float64Array(64);
  private readonly filter = new StateVariable('low');
  private readonly numbers: Float64Array;

  constructor(cutoffHz: number, rateHz: number) {
    const g = prewarp(cutoffHz, rateHz);
    this.numbers = Float64Array.of(g, g, 1);
  }
  reset(): void {
    this.filter.reset();
  }
  copyFrom(other: Dull): void {
    this.filter.copyFrom(other.filter);
  }
  take(samples: Float64Array, count: number): void {
    const { wave } = this;
    for (let i = 0; i < count; i++) wave[i] = samples[i];
    this.filter.process(wave, 0, count, this.numbers);
  }
}

/** A short history of a wave. */
export class Late {
  private readonly ring = new Float64Array(RING);
  private readonly at = new Int32Array(1);
  reset(): void {
    this.ring.fill(0);
  }
  copyFrom(other: Late): void {
    this.ring.set(other.ring);
    this.at.set(other.at);
  }
  push(samples: Float64Array, i: number): void {
    this.at[0] = (this.at[0] + 1) & (RING - 1);
    this.ring[this.at[0]] = samples[i];
  }
  /** Delays the first `count` samples by `back`, in place. */
  delay(samples: Float64Array, count: number, back: number): void {
    for (let i = 0; i < count; i++) {
      this.push(samples, i);
      samples[i] = this.ring[(this.at[0] - back) & (RING - 1)];
    }
  }
  /** Writes the value `back` samples ago to `out[place]`. */
  read(back: number, out: Float64Array, place: number): void {
    out[place] = this.ring[(this.at[0] - back) & (RING - 1)];
  }
}

/**
 * What two waves give together by ring, logic, compare, or by switching between them with a third. Logic asks
 * which of the waves stand above zero; its
 * 0 and 1 are moved to ±½. Edges are found between samples and are band-limited steps (with a corner where
 * the waves that are switched have one).
 */
export class ToneSwitch {
  private readonly a = new EdgeFinder();
  private readonly b = new EdgeFinder();
  private readonly corrector = new StepCorrector();
  private readonly lateCarrier = new Late();
  private readonly lateOther = new Late();
  private readonly lateThird = new Late();
  /** Age, height and slope of an edge; height and slope of the gap there. */
  private readonly edge = new Float64Array(5);
  private readonly gaps = new Float64Array(4);
  private readonly cubic = new Float64Array(4);
  private readonly scratch = new Float64Array(4);
  private readonly work = new Float64Array(64);
  private readonly threshold = new Float64Array(64);

  private readonly dullA: Dull;
  private readonly dullB: Dull;

  constructor(
    private readonly way: Way,
    rateHz: number,
  ) {
    this.dullA = new Dull(DULL_HZ, rateHz);
    this.dullB = new Dull(DULL_HZ, rateHz);
  }

  /** Delay of what comes out, in samples of the upper rate. */
  get delay(): number {
    return this.way === 'ring' ? 0 : SWITCH_DELAY;
  }

  reset(): void {
    this.a.reset();
    this.dullA.reset();
    this.dullB.reset();
    this.b.reset();
    this.corrector.reset();
    this.lateCarrier.reset();
    this.lateOther.reset();
    this.lateThird.reset();
  }

  copyFrom(other: ToneSwitch): void {
    this.a.copyFrom(other.a);
    this.dullA.copyFrom(other.dullA);
    this.dullB.copyFrom(other.dullB);
    this.b.copyFrom(other.b);
    this.corrector.copyFrom(other.corrector);
    this.lateCarrier.copyFrom(other.lateCarrier);
    this.lateOther.copyFrom(other.lateOther);
    this.lateThird.copyFrom(other.lateThird);
  }

  private logic(a: number, b: number): number {
    switch (this.way) {
      case 'and':
        return a & b;
      case 'or':
        return a | b;
      case 'xor':
        return a ^ b;
      default:
        return a;
    }
  }

  /**
   * Mixes what `carrier` and `by` give together into `carrier`, by an amount that runs from `amount[at]` to
   * `amount[at + 1]`.
   */
  combine(carrier: Float64Array, by: Float64Array, amount: Float64Array, at: number, count: number): void {
    let go = amount[at];
    const step = (amount[at + 1] - go) / count;
    if (this.way === 'ring') {
      for (let i = 0; i < count; i++) {
        go += step;
        carrier[i] *= 1 - go + go * by[i];
      }
      return;
    }
    const { a, b, work, edge, corrector, lateCarrier, scratch } = this;
    const compares = this.way === 'compare';
    this.dullA.take(carrier, count);
    this.dullB.take(by, count);
    const first = this.dullA.wave;
    const second = this.dullB.wave;
    for (let i = 0; i < count; i++) {
      a.take(first, compares ? second : SILENCE, i);
      if (!compares) b.take(second, SILENCE, i);
      const upA = a.found[1];
      const upB = compares ? 0 : b.found[1];
      const nowA = a.found[2];
      const nowB = b.found[2];
      if (upA !== 0 || upB !== 0) {
        // Where both cross within one interval, the earlier is taken first.
        const wasA = nowA - upA;
        const wasB = nowB - upB;
        const aFirst = upB === 0 || (upA !== 0 && a.found[0] <= b.found[0]);
        const old = this.logic(wasA, wasB);
        const between = aFirst ? this.logic(nowA, wasB) : this.logic(wasA, nowB);
        edge[EDGE_SLOPE] = 0;
        edge[EDGE_HEIGHT] = between - old;
        edge[EDGE_AGE] = 1 - (aFirst ? a.found[0] : b.found[0]);
        if (edge[EDGE_HEIGHT] !== 0) corrector.correct(edge);
        edge[EDGE_HEIGHT] = this.logic(nowA, nowB) - between;
        edge[EDGE_AGE] = 1 - (aFirst ? b.found[0] : a.found[0]);
        if (edge[EDGE_HEIGHT] !== 0) corrector.correct(edge);
      }
      work[i] = this.logic(nowA, nowB) - 0.5;
      corrector.push(work, i, i + 1);
      lateCarrier.push(carrier, i);
      lateCarrier.read(SWITCH_DELAY, scratch, 0);
      go += step;
      carrier[i] = scratch[0] + go * (work[i] - scratch[0]);
    }
  }

  /**
   * Height of the gap between the two waves, and its slope, at a share of the interval before the last sample
   * but one; by the cubic through four samples.
   */
  private gapAt(t: number): void {
    const { lateCarrier, lateOther, scratch, gaps, cubic, edge } = this;
    for (let k = 0; k < 4; k++) {
      lateCarrier.read(3 - k, scratch, 2);
      lateOther.read(3 - k, scratch, 3);
      gaps[k] = scratch[2] - scratch[3];
    }
    cubicThrough(gaps, cubic);
    const c1 = cubic[1],
      c2 = cubic[2],
      c3 = cubic[3];
    edge[3] = cubic[0] + t * (c1 + t * (c2 + t * c3));
    edge[4] = c1 + t * (2 * c2 + t * 3 * c3);
  }

  /**
   * Switches between `one` and `two` by `three`, into `one`. The share of a straight swing during which `one`
   * is heard runs from `amount[at]` to `amount[at + 1]`,
   * the smoothing from `amount[at + 2]` on; the amount itself stands at `amount[at − 4]`.
   */
  alternate(
    one: Float64Array,
    two: Float64Array,
    three: Float64Array,
    amount: Float64Array,
    at: number,
    count: number,
  ): void {
    const { a, work, threshold, edge, corrector, lateCarrier, lateOther, lateThird, scratch } = this;
    const widthStep = (amount[at + 1] - amount[at]) / count;
    const smooth = amount[at + 3];
    const share0 = amount[at - 4];
    const shareStep = (amount[at - 3] - share0) / count;
    this.dullA.take(three, count);
    const third = this.dullA.wave;
    for (let i = 0; i < count; i++) threshold[i] = 1 - 2 * (amount[at] + (i + 1) * widthStep);
    for (let i = 0; i < count; i++) {
      lateCarrier.push(one, i);
      lateOther.push(two, i);
      lateThird.push(third, i);
      a.take(third, threshold, i);
      lateCarrier.read(1, scratch, 0);
      lateOther.read(1, scratch, 1);
      if (smooth > 0) {
        lateThird.read(1, scratch, 2);
        const t = (scratch[2] - threshold[i]) / smooth + 0.5;
        const s = t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t);
        work[i] = scratch[1] + s * (scratch[0] - scratch[1]);
      } else {
        if (a.found[1] !== 0) {
          this.gapAt(a.found[0]);
          edge[EDGE_AGE] = 1 - a.found[0];
          // The corner is that of the gap at the edge; what it is off by then counts from there.
          edge[EDGE_HEIGHT] = a.found[1] * edge[3];
          edge[EDGE_SLOPE] = a.found[1] * edge[4];
          corrector.correct(edge);
        }
        work[i] = a.found[2] === 1 ? scratch[0] : scratch[1];
      }
      corrector.push(work, i, i + 1);
      lateCarrier.read(SWITCH_DELAY, scratch, 0);
      one[i] = scratch[0] + (share0 + (i + 1) * shareStep) * (work[i] - scratch[0]);
    }
  }
}
