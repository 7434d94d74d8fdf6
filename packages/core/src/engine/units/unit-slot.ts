import { BLOCK, DelayLine, keepDry } from '../../dsp/index.js';
import {
  UNIT_LEVEL,
  UNIT_WET,
  unitKindOf,
  type GritUnit,
  type UnitHears,
  type UnitRunner,
  type UnitStart,
} from '../../kinds/units/index.js';
import { dbToGain } from '../../units/index.js';

/** Another signal, as late as what goes through the unit. */
interface Tap {
  readonly from: Float64Array;
  readonly block: Float64Array;
  readonly wait: DelayLine;
}

/** A unit in its place: what is heard of it beside what went in, its level, and whether it is there. */
export class UnitSlot {
  readonly lateFrames: number;
  /** How far it is there, 0 to 1, at the start and the end of the step; a macro may switch it. */
  readonly there = Float64Array.of(1, 1);
  /** Whether links carry any of its numbers. */
  moves = true;
  private readonly kind: GritUnit['kind'];
  private readonly stereo: boolean;
  private readonly runner: UnitRunner<GritUnit>;
  private readonly mixes: boolean;
  private readonly waits: readonly DelayLine[];
  private readonly dry: readonly [Float64Array, Float64Array] = [
    new Float64Array(BLOCK),
    new Float64Array(BLOCK),
  ];
  private readonly taps: Tap[] = [];
  /** Wet share and level at the end of the last step; not a number before the first. */
  private readonly last = Float64Array.of(NaN, NaN);
  /** Where it is told in how many frames the next note begins; null where it need not know. */
  readonly ahead: Float64Array | null;

  /**
   * @param late frames by which what goes in comes late already.
   * @param at place of its first number; it has `count` of them.
   */
  constructor(
    unit: GritUnit,
    start: UnitStart,
    readonly late: number,
    readonly at: number,
    readonly count: number,
  ) {
    const kind = unitKindOf(unit.kind);
    this.kind = unit.kind;
    this.stereo = start.stereo;
    this.ahead = kind.awaitsNotes ? Float64Array.of(Infinity) : null;
    const hears: UnitHears = {
      ...start.hears,
      ahead: this.ahead ?? start.hears.ahead,
      side: (name) => this.tap(start.hears.side(name)),
    };
    this.runner = kind.run(unit, { ...start, hears });
    this.lateFrames = this.runner.lateFrames;
    this.mixes = kind.mixes === true;
    this.waits = Array.from({ length: start.stereo ? 2 : 1 }, () => new DelayLine(this.lateFrames));
  }

  private tap(from: Float64Array | null): Float64Array | null {
    if (!from || this.late === 0) return from;
    const tap = { from, block: new Float64Array(BLOCK), wait: new DelayLine(this.late) };
    this.taps.push(tap);
    return tap.block;
  }

  set(unit: GritUnit): void {
    this.runner.set?.(unit);
  }

  /** The loop begins, or begins again. */
  comeRound(): void {
    this.runner.comeRound?.();
  }

  /** Goes on from where it stood before; where it was another kind, or had other sides, it begins anew. */
  copyFrom(other: UnitSlot): void {
    if (other.kind !== this.kind || other.stereo !== this.stereo) return;
    this.runner.copyFrom(other.runner);
    this.last.set(other.last);
    if (other.lateFrames === this.lateFrames)
      this.waits.forEach((wait, s) => {
        if (s < other.waits.length) wait.copyFrom(other.waits[s]);
      });
    this.taps.forEach((tap, t) => {
      const from = other.taps.at(t);
      if (from?.wait.frames === tap.wait.frames) tap.wait.copyFrom(from.wait);
    });
  }

  /** Works on the samples from `from` up to `to` in place; in mono `right` is `left` itself. */
  process(left: Float64Array, right: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { runner, at, waits, dry, last, there, taps } = this;
    const sides = right === left ? 1 : 2;
    for (let t = 0; t < taps.length; t++) {
      const tap = taps[t];
      for (let i = from; i < to; i++) tap.block[i] = tap.from[i];
      tap.wait.run(tap.block, from, to);
    }
    const wet = this.mixes ? 1 : numbers[at + UNIT_WET] / 100;
    const wet0 = last[0] === last[0] ? last[0] : wet;
    const heard = wet < 1 || wet0 < 1 || there[0] < 1 || there[1] < 1;
    for (let s = 0; s < sides; s++) keepDry(s === 0 ? left : right, dry[s], waits[s], heard, from, to);
    runner.process(left, right, from, to, numbers, at);
    const level = dbToGain(numbers[at + UNIT_LEVEL]);
    const level0 = last[1] === last[1] ? last[1] : level;
    last[0] = wet;
    last[1] = level;
    const frames = to - from;
    for (let s = 0; s < sides; s++) {
      const samples = s === 0 ? left : right;
      const past = dry[s];
      if (wet < 1 || wet0 < 1) {
        const step = (wet - wet0) / frames;
        let share = wet0;
        for (let i = from; i < to; i++) {
          share += step;
          samples[i] = past[i] + share * (samples[i] - past[i]);
        }
      }
      if (level !== 1 || level0 !== 1) {
        const step = (level - level0) / frames;
        let gain = level0;
        for (let i = from; i < to; i++) {
          gain += step;
          samples[i] *= gain;
        }
      }
      if (there[0] < 1 || there[1] < 1) {
        const step = (there[1] - there[0]) / frames;
        let share = there[0];
        for (let i = from; i < to; i++) {
          share += step;
          samples[i] = past[i] + share * (samples[i] - past[i]);
        }
      }
    }
  }
}
