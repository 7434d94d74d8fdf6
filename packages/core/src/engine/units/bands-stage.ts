import { BandSplit, BLOCK, DelayLine, keepDry, prewarp } from '../../dsp/index.js';
import type { GritUnit, UnitStart } from '../../kinds/units/index.js';
import { dbToGain } from '../../units/index.js';
import type { ControlSteps } from './control-steps.js';
import type { NoteMarks } from './note-marks.js';
import { UnitChain } from './unit-chain.js';

/** Time in which a band comes or goes. */
const FADE_S = 0.01;

/** A band as the stage needs it. */
export interface BandSetup {
  readonly id: string;
  readonly on: boolean;
  /** Whether both sides are made one before its chain. */
  readonly mono: boolean;
  readonly units: readonly GritUnit[];
}

/** Where a band's own numbers stand, counted from its first; those of its units come after them. */
export const BAND_LEVEL = 0;
export const BAND_WIDTH = 1;
export const BAND_WET = 2;
export const BAND_NUMBERS = 3;

/** One band: its chain beside the dry way, its level and its width. */
class Band {
  readonly chain: UnitChain;
  private readonly dry: readonly [Float64Array, Float64Array] = [
    new Float64Array(BLOCK),
    new Float64Array(BLOCK),
  ];
  private readonly waits: readonly DelayLine[];
  /** Until the slowest band has come. */
  private rest: readonly DelayLine[] = [];
  /** How far it is there, 0 to 1; not a number before the first step. */
  private readonly there = Float64Array.of(NaN);
  /** Level, width and wet share at the end of the last step; not a number before the first. */
  private readonly last = new Float64Array(BAND_NUMBERS).fill(NaN);

  constructor(
    public setup: BandSetup,
    private readonly start: UnitStart,
    private readonly at: number,
    lateIn: number,
  ) {
    this.chain = new UnitChain(setup.units, start, at + BAND_NUMBERS, lateIn);
    this.waits = [0, 1].map(() => new DelayLine(this.chain.lateFrames));
  }

  waitFor(frames: number): void {
    const rest = frames - this.chain.lateFrames;
    this.rest = rest > 0 ? [0, 1].map(() => new DelayLine(rest)) : [];
  }

  copyFrom(other: Band): void {
    this.chain.copyFrom(other.chain);
    this.last.set(other.last);
    this.there.set(other.there);
    if (other.chain.lateFrames === this.chain.lateFrames)
      this.waits.forEach((wait, s) => {
        wait.copyFrom(other.waits[s]);
      });
    this.rest.forEach((rest, s) => {
      const from = other.rest.at(s);
      if (from?.frames === rest.frames) rest.copyFrom(from);
    });
  }

  /** How far it is there, along a line bent at both ends, once so many frames more have passed. */
  private comesTo(frames: number): number {
    const { there, start } = this;
    const to = this.setup.on ? 1 : 0;
    const step = frames / (FADE_S * start.sampleRateHz);
    const rest = to - there[0];
    there[0] = !(Math.abs(rest) > step) || there[0] !== there[0] ? to : there[0] + Math.sign(rest) * step;
    return there[0] * there[0] * (3 - 2 * there[0]);
  }

  /** Works on the band in place; whether its sides differ behind it, `chain.stereo` says. */
  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    steps: ControlSteps | null,
  ): void {
    const { chain, dry, waits, last, at, rest, start } = this;
    const wet = numbers[at + BAND_WET] / 100;
    const level = this.comesTo(to - from) * dbToGain(numbers[at + BAND_LEVEL]);
    const width = numbers[at + BAND_WIDTH] / 100;
    const first = last[BAND_WET] !== last[BAND_WET];
    const wet0 = first ? wet : last[BAND_WET];
    const level0 = first ? level : last[BAND_LEVEL];
    const width0 = first ? width : last[BAND_WIDTH];
    last[BAND_WET] = wet;
    last[BAND_LEVEL] = level;
    last[BAND_WIDTH] = width;
    const step = 1 / (to - from);
    if (!chain.empty) {
      const heard = wet < 1 || wet0 < 1;
      for (let s = 0; s < (start.stereo ? 2 : 1); s++)
        keepDry(s === 0 ? left : right, dry[s], waits[s], heard, from, to);
      chain.process(left, right, from, to, numbers, steps);
      if (heard)
        for (let s = 0; s < (chain.stereo ? 2 : 1); s++) {
          const samples = s === 0 ? left : right;
          const past = dry[start.stereo ? s : 0];
          let share = wet0;
          for (let i = from; i < to; i++) {
            share += step * (wet - wet0);
            samples[i] = past[i] + share * (samples[i] - past[i]);
          }
        }
    }
    if (chain.stereo && (width !== 1 || width0 !== 1)) {
      let share = width0;
      for (let i = from; i < to; i++) {
        share += step * (width - width0);
        const middle = 0.5 * (left[i] + right[i]);
        const side = 0.5 * share * (left[i] - right[i]);
        left[i] = middle + side;
        right[i] = middle - side;
      }
    }
    for (let s = 0; s < (chain.stereo ? 2 : 1); s++) {
      const samples = s === 0 ? left : right;
      if (level !== 1 || level0 !== 1) {
        let gain = level0;
        for (let i = from; i < to; i++) {
          gain += step * (level - level0);
          samples[i] *= gain;
        }
      }
      if (rest.length > 0) rest[s].run(samples, from, to);
    }
  }
}

/**
 * Bands that sum flat (`BandSplit`), each with its chain, wet share, width and level. All come out together, as late
 * as the slowest. A unit may listen to another band by its id: to what goes into it.
 */
export class BandsStage {
  readonly lateFrames: number;
  /** Whether its sides differ behind it. */
  readonly stereo: boolean;
  readonly bands: readonly Band[];
  private readonly splits: readonly BandSplit[];
  private readonly crossings: readonly Float64Array[];
  private readonly inputs: readonly Float64Array[];
  /** Right sides of bands that only their chains make differ. */
  private readonly wide: readonly Float64Array[];
  private readonly listened: boolean;

  /**
   * @param setups deepest first.
   * @param ats places of the first number of each band.
   */
  constructor(
    setups: readonly BandSetup[],
    private readonly start: UnitStart,
    ats: readonly number[],
    lateIn = 0,
  ) {
    this.inputs = setups.map(() => new Float64Array(BLOCK));
    this.wide = setups.map(() => new Float64Array(BLOCK));
    let listened = false;
    const hears = {
      ...start.hears,
      side: (name: string) => {
        const band = setups.findIndex(({ id }) => id === name);
        if (band < 0) return start.hears.side(name);
        listened = true;
        return this.inputs[band];
      },
    };
    this.bands = setups.map(
      (setup, b) => new Band(setup, { ...start, hears, stereo: start.stereo && !setup.mono }, ats[b], lateIn),
    );
    this.listened = listened;
    this.lateFrames = Math.max(...this.bands.map(({ chain }) => chain.lateFrames));
    this.stereo = this.bands.some(({ chain }) => chain.stereo);
    for (const band of this.bands) band.waitFor(this.lateFrames);
    this.splits = Array.from({ length: start.stereo ? 2 : 1 }, () => new BandSplit(setups.length));
    this.crossings = Array.from({ length: setups.length - 1 }, () => Float64Array.of(NaN, NaN));
  }

  set(setups: readonly BandSetup[]): void {
    setups.forEach((setup, b) => {
      this.bands[b].setup = setup;
      this.bands[b].chain.set(setup.units);
    });
  }

  copyFrom(other: BandsStage): void {
    this.splits.forEach((split, s) => {
      if (s < other.splits.length) split.copyFrom(other.splits[s]);
    });
    if (other.crossings.length === this.crossings.length)
      this.crossings.forEach((crossing, c) => {
        crossing.set(other.crossings[c]);
      });
    this.bands.forEach((band, b) => {
      if (b < other.bands.length) band.copyFrom(other.bands[b]);
    });
  }

  await(marks: NoteMarks, place: number): void {
    for (let b = 0; b < this.bands.length; b++) this.bands[b].chain.await(marks, place);
  }

  /**
   * Replaces the samples from `from` up to `to` by the sum of all bands; `crossoversHz` says where they part. Where
   * the sides do not differ going in, `right` is only written to, and only where they do coming out. `steps` are as
   * `UnitChain.process` takes them.
   */
  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    crossoversHz: ArrayLike<number>,
    steps: ControlSteps | null = null,
  ): void {
    const { bands, splits, crossings, inputs, start } = this;
    for (let c = 0; c < crossings.length; c++) {
      const crossing = crossings[c];
      const warped = prewarp(crossoversHz[c], start.sampleRateHz);
      crossing[0] = crossing[1] === crossing[1] ? crossing[1] : warped;
      crossing[1] = warped;
    }
    const [a] = splits;
    const b = splits.length > 1 ? splits[1] : a;
    a.process(left, from, to, crossings);
    if (b !== a) b.process(right, from, to, crossings);
    if (this.listened)
      for (let n = 0; n < bands.length; n++) {
        const l = a.bands[n];
        const r = b.bands[n];
        for (let i = from; i < to; i++) inputs[n][i] = 0.5 * (l[i] + r[i]);
      }
    for (let n = 0; n < bands.length; n++) {
      const l = a.bands[n];
      const r = b === a ? this.wide[n] : b.bands[n];
      if (b !== a && bands[n].setup.mono) for (let i = from; i < to; i++) l[i] = 0.5 * (l[i] + r[i]);
      bands[n].process(l, r, from, to, numbers, steps);
      const same = !bands[n].chain.stereo;
      if (n === 0) {
        for (let i = from; i < to; i++) left[i] = l[i];
        if (this.stereo) for (let i = from; i < to; i++) right[i] = same ? l[i] : r[i];
        continue;
      }
      for (let i = from; i < to; i++) left[i] += l[i];
      if (this.stereo) for (let i = from; i < to; i++) right[i] += same ? l[i] : r[i];
    }
  }
}
