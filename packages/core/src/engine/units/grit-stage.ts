import {
  BLOCK,
  CrossoverAllpass,
  CrossoverSide,
  DelayLine,
  prewarp,
  SteepAllpass,
  SteepHigh,
} from '../../dsp/index.js';
import type { Grit } from '../../document/index.js';
import type { UnitStart } from '../../kinds/units/index.js';
import { dbToGain } from '../../units/index.js';
import { BandsStage } from './bands-stage.js';
import type { ControlSteps } from './control-steps.js';
import type { GritLayout } from './grit-layout.js';
import type { NoteMarks } from './note-marks.js';
import { UnitChain } from './unit-chain.js';

/**
 * Frames that Sub's way past the bands rings on after Sub is silent, as a bound: the allpass falls by 120 dB
 * in them at 40 Hz and 96 kHz.
 */
const RINGS_ON = 65536;

/**
 * All that happens by bands. Below the clean path only Sub sounds, in mono: everything goes through a Linkwitz–Riley
 * high-pass, the bands and their chains (`BandsStage`), and the steep edge, which takes out what they made below it.
 * Past all that goes Sub in mono through the allpasses that are in step with both, less what of it went the other way
 * untouched: so the sum of what nothing works on is flat in magnitude, exactly, whatever the edge. What is left of Sub
 * there is the clean path: its own units, where it is not left alone, and its level. A chain behind the sum comes last.
 */
export class GritStage {
  readonly lateFrames: number;
  /** Whether its sides differ behind it. */
  readonly stereo: boolean;
  readonly bands: BandsStage;
  /** The clean path's chain; null where it is left alone, or there is none. */
  readonly cleanChain: UnitChain | null;
  readonly after: UnitChain;
  private readonly cleanPath: boolean;
  private readonly highs: readonly CrossoverSide[];
  private readonly edges: readonly SteepHigh[];
  private readonly subHighSide = new CrossoverSide('high');
  private readonly subEdge = new SteepHigh();
  private readonly past = new SteepAllpass();
  /** Of the crossovers between the bands, for Sub's way past them. */
  private readonly innerHigh: readonly CrossoverAllpass[];
  private readonly innerPast: readonly CrossoverAllpass[];
  private readonly subHigh = new Float64Array(BLOCK);
  private readonly cleanRight = new Float64Array(BLOCK);
  private readonly waits: readonly DelayLine[];
  private readonly bandWaits: readonly DelayLine[];
  /** Warped crossover of the clean path at the start and the end of the step; those between the bands. */
  private readonly crossover = Float64Array.of(NaN, NaN);
  private readonly inner: readonly Float64Array[];
  private readonly crossoversHz: Float64Array;
  /** Level of the clean path at the end of the last step. */
  private readonly level = Float64Array.of(NaN);
  /** Frames since Sub was heard. */
  private readonly quiet = Float64Array.of(RINGS_ON);

  constructor(
    { cleanPath, bands, after }: Grit,
    private readonly start: UnitStart,
    private readonly layout: GritLayout,
    /** Frames by which what goes in comes late already. */
    lateIn = 0,
  ) {
    this.cleanPath = cleanPath.on;
    const sides = start.stereo ? 2 : 1;
    this.bands = new BandsStage(
      bands.map((band) => ({ ...band, mono: false })),
      start,
      layout.bands,
      lateIn,
    );
    this.cleanChain =
      cleanPath.on && !cleanPath.alone
        ? new UnitChain(cleanPath.units, { ...start, stereo: false }, layout.clean, lateIn)
        : null;
    const bandsLate = this.bands.lateFrames;
    const cleanLate = this.cleanChain?.lateFrames ?? 0;
    const late = Math.max(bandsLate, cleanLate);
    this.stereo = this.bands.stereo || this.cleanChain?.stereo === true;
    this.after = new UnitChain(after, { ...start, stereo: this.stereo }, layout.after, lateIn + late);
    this.lateFrames = late + this.after.lateFrames;
    this.highs = Array.from({ length: sides }, () => new CrossoverSide('high'));
    this.edges = [new SteepHigh(), new SteepHigh()];
    this.innerHigh = bands.slice(1).map(() => new CrossoverAllpass());
    this.innerPast = bands.slice(1).map(() => new CrossoverAllpass());
    this.waits = [0, 1].map(() => new DelayLine(late - cleanLate));
    this.bandWaits = [0, 1].map(() => new DelayLine(late - bandsLate));
    this.inner = bands.slice(1).map(() => Float64Array.of(NaN, NaN));
    this.crossoversHz = new Float64Array(bands.length - 1);
  }

  set({ cleanPath, bands, after }: Grit): void {
    this.bands.set(bands.map((band) => ({ ...band, mono: false })));
    this.cleanChain?.set(cleanPath.units);
    this.after.set(after);
  }

  copyFrom(other: GritStage): void {
    this.bands.copyFrom(other.bands);
    if (other.cleanChain) this.cleanChain?.copyFrom(other.cleanChain);
    this.after.copyFrom(other.after);
    const pairs: readonly (readonly [{ copyFrom(from: never): void }[], readonly unknown[]])[] = [
      [[...this.highs], other.highs],
      [[...this.edges], other.edges],
      [[...this.innerHigh], other.innerHigh],
      [[...this.innerPast], other.innerPast],
    ];
    for (const [mine, theirs] of pairs)
      mine.forEach((part, i) => {
        if (i < theirs.length) part.copyFrom(theirs[i] as never);
      });
    this.subHighSide.copyFrom(other.subHighSide);
    this.subEdge.copyFrom(other.subEdge);
    this.past.copyFrom(other.past);
    for (const [mine, theirs] of [
      [this.waits, other.waits],
      [this.bandWaits, other.bandWaits],
    ])
      mine.forEach((wait, s) => {
        if (wait.frames === theirs[s].frames) wait.copyFrom(theirs[s]);
      });
    this.crossover.set(other.crossover);
    if (other.inner.length === this.inner.length)
      this.inner.forEach((crossing, c) => {
        crossing.set(other.inner[c]);
      });
    this.level.set(other.level);
    this.quiet.set(other.quiet);
  }

  /** All of its chains. */
  get chains(): readonly UnitChain[] {
    return [
      ...(this.cleanChain ? [this.cleanChain] : []),
      ...this.bands.bands.map(({ chain }) => chain),
      this.after,
    ];
  }

  /** Tells units when the next note begins: the line stands at `place` at the block's start. */
  await(marks: NoteMarks, place: number): void {
    this.bands.await(marks, place);
    this.cleanChain?.await(marks, place);
    this.after.await(marks, place);
  }

  private move(numbers: Float64Array): void {
    const { layout, start, crossover, inner, crossoversHz } = this;
    const warped = prewarp(numbers[layout.crossover], start.sampleRateHz);
    crossover[0] = crossover[1] === crossover[1] ? crossover[1] : warped;
    crossover[1] = warped;
    let below = this.cleanPath ? numbers[layout.crossover] : 0;
    for (let c = 0; c < inner.length; c++) {
      // Bands that meet would leave one of nothing: each begins above the one below.
      const hz = numbers[layout.froms[c + 1]];
      below = crossoversHz[c] = hz > 1.05 * below ? hz : 1.05 * below;
      const at = prewarp(below, start.sampleRateHz);
      inner[c][0] = inner[c][1] === inner[c][1] ? inner[c][1] : at;
      inner[c][1] = at;
    }
  }

  /**
   * Works on the samples from `from` up to `to` of both sides in place. Where they do not differ going in, `right` is
   * only written to, and only where they do coming out. `clean` is Sub in mono, and is used up; `sub` says whether
   * there is any. `steps` are as `UnitChain.process` takes them.
   */
  process(
    left: Float64Array,
    right: Float64Array,
    clean: Float64Array,
    sub: boolean,
    from: number,
    to: number,
    numbers: Float64Array,
    steps: ControlSteps | null = null,
  ): void {
    const { bands, highs, edges, crossover, crossoversHz, stereo, bandWaits } = this;
    this.move(numbers);
    if (this.cleanPath) {
      highs[0].process(left, from, to, crossover);
      if (highs.length > 1) highs[1].process(right, from, to, crossover);
    }
    bands.process(left, right, from, to, numbers, crossoversHz, steps);
    if (stereo && !bands.stereo) for (let i = from; i < to; i++) right[i] = left[i];
    if (this.cleanPath) {
      edges[0].process(left, from, to, crossover);
      if (stereo) edges[1].process(right, from, to, crossover);
    }
    if (bandWaits[0].frames > 0) {
      bandWaits[0].run(left, from, to);
      if (stereo) bandWaits[1].run(right, from, to);
    }
    if (this.cleanPath) this.addClean(left, right, clean, sub, from, to, numbers, steps);
    this.after.process(left, right, from, to, numbers, steps);
  }

  private addClean(
    left: Float64Array,
    right: Float64Array,
    clean: Float64Array,
    sub: boolean,
    from: number,
    to: number,
    numbers: Float64Array,
    steps: ControlSteps | null,
  ): void {
    const { quiet, subHigh, crossover, innerHigh, innerPast, inner, cleanChain, waits, level, cleanRight } =
      this;
    quiet[0] = sub ? 0 : quiet[0] + (to - from);
    if (quiet[0] >= RINGS_ON && !cleanChain) return;
    if (!sub) for (let i = from; i < to; i++) clean[i] = 0;
    for (let i = from; i < to; i++) subHigh[i] = clean[i];
    this.subHighSide.process(subHigh, from, to, crossover);
    this.past.process(clean, from, to, crossover);
    for (let c = 0; c < inner.length; c++) {
      innerHigh[c].process(subHigh, from, to, inner[c]);
      innerPast[c].process(clean, from, to, inner[c]);
    }
    this.subEdge.process(subHigh, from, to, crossover);
    for (let i = from; i < to; i++) clean[i] -= subHigh[i];
    cleanChain?.process(clean, cleanRight, from, to, numbers, steps);
    const wide = cleanChain?.stereo === true;
    if (waits[0].frames > 0) {
      waits[0].run(clean, from, to);
      if (wide) waits[1].run(cleanRight, from, to);
    }
    const gain = dbToGain(numbers[this.layout.cleanLevel]);
    let now = level[0] === level[0] ? level[0] : gain;
    const step = (gain - now) / (to - from);
    level[0] = gain;
    for (let i = from; i < to; i++) {
      now += step;
      left[i] += now * clean[i];
      if (this.stereo) right[i] += now * (wide ? cleanRight[i] : clean[i]);
    }
  }
}
