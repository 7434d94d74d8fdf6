import { BLOCK, DelayLine } from '../../dsp/index.js';
import type { Duck, Grit } from '../../document/index.js';
import type { UnitStart } from '../../kinds/units/index.js';
import type { GritLayout } from '../units/grit-layout.js';
import { GritStage } from '../units/grit-stage.js';
import { DuckStage } from './duck-stage.js';

/** Time constant of a layer's power, in seconds. */
const FORGETS_S = 0.05;

/** What a tap is made for. */
export interface TapSetup {
  /** Whether the layer is a Sub. */
  readonly sub: boolean;
  /** Whether its sides can differ as it goes in; where they cannot, one does for both. */
  readonly stereo: boolean;
  readonly layout: GritLayout;
  /** Whether it shares in what units make; else it is dry, as it goes into them. */
  readonly shares: boolean;
  /** Frames by which the bass comes late through grit, and after it. */
  readonly lateFrames: number;
  readonly endFrames: number;
  /** Given where ducking acts on more than the level. */
  readonly duck: Duck | null;
}

/** Grit without its units: what it does to each layer by itself, evenly. */
const withoutUnits = ({ cleanPath, bands }: Grit): Grit => ({
  cleanPath: { ...cleanPath, alone: true, units: [] },
  bands: bands.map((band) => ({ ...band, units: [] })),
  after: [],
});

/**
 * A layer's own way through the mix, for its stem: clean path, bands without their units, ducking, level and ceiling
 * as the bass has them, and its share of what the units make of all layers, so that the stems add up to the bass; or
 * dry, as it goes into them.
 */
export class StemTap {
  readonly left = new Float64Array(BLOCK);
  readonly right = new Float64Array(BLOCK);
  private readonly clean = new Float64Array(BLOCK);
  private readonly grit: GritStage;
  private readonly waits: readonly DelayLine[];
  private readonly ends: readonly DelayLine[];
  private readonly duckStage: DuckStage | null;
  /** Power of late, both sides; the powers of all layers say how they share what belongs to none. */
  readonly power = new Float64Array(1);
  /** The same of the change from sample to sample, in which highs weigh more. */
  readonly highs = new Float64Array(1);
  private readonly last = new Float64Array(2);

  constructor(
    grit: Grit,
    private readonly start: UnitStart,
    private readonly setup: TapSetup,
  ) {
    this.grit = new GritStage(withoutUnits(grit), { ...start, stereo: setup.stereo }, setup.layout);
    this.waits = [0, 1].map(() => new DelayLine(setup.lateFrames));
    this.ends = [0, 1].map(() => new DelayLine(setup.endFrames));
    this.duckStage = setup.duck ? new DuckStage(setup.duck, start.sampleRateHz) : null;
  }

  /** Takes the next frames of the layer in. */
  take(sourceLeft: Float64Array, sourceRight: Float64Array, silent: boolean, frames: number): void {
    const { left, right, power, highs, last } = this;
    let sum = 0;
    let changes = 0;
    for (let i = 0; i < frames; i++) {
      const l = silent ? 0 : sourceLeft[i];
      const r = silent ? 0 : sourceRight[i];
      left[i] = l;
      right[i] = r;
      this.clean[i] = 0.5 * (l + r);
      sum += l * l + r * r;
      changes += (l - last[0]) * (l - last[0]) + (r - last[1]) * (r - last[1]);
      last[0] = l;
      last[1] = r;
    }
    const share = 1 - Math.exp(-frames / (FORGETS_S * this.start.sampleRateHz));
    power[0] += (sum / frames - power[0]) * share;
    highs[0] += (changes / frames - highs[0]) * share;
  }

  /** Adds a share of what belongs to no layer by itself. */
  add(left: Float64Array, right: Float64Array, share: number, frames: number): void {
    for (let i = 0; i < frames; i++) {
      this.left[i] += share * left[i];
      this.right[i] += share * right[i];
    }
  }

  /** Takes its own way off what is left of the bass. */
  takeOff(left: Float64Array, right: Float64Array, frames: number): void {
    for (let i = 0; i < frames; i++) {
      left[i] -= this.left[i];
      right[i] -= this.right[i];
    }
  }

  /** Runs the layer's samples from `from` up to `to` through the clean path and the bands. */
  shape(from: number, to: number, numbers: Float64Array): void {
    const { left, right, clean, setup, waits } = this;
    this.grit.process(left, right, clean, setup.sub, from, to, numbers);
    if (!setup.stereo) for (let i = from; i < to; i++) right[i] = left[i];
    waits[0].run(left, from, to);
    waits[1].run(right, from, to);
  }

  /** Whether it shares in what units make. */
  get shares(): boolean {
    return this.setup.shares;
  }

  /**
   * Sets level, ducking and ceiling: a gain that runs evenly over the step, the share of the ducking's depth
   * at its end, and gains frame by frame where the ceiling acts.
   */
  finish(
    fromGain: number,
    toGain: number,
    share: Float64Array,
    ceiling: Float64Array | null,
    frames: number,
  ): void {
    const { left, right } = this;
    const step = (toGain - fromGain) / frames;
    let gain = fromGain;
    for (let i = 0; i < frames; i++) {
      gain += step;
      left[i] *= gain;
      right[i] *= gain;
    }
    if (this.duckStage) this.duckStage.process(left, right, true, frames, share);
    this.ends[0].process(left, frames);
    this.ends[1].process(right, frames);
    if (!ceiling) return;
    for (let i = 0; i < frames; i++) {
      left[i] *= ceiling[i];
      right[i] *= ceiling[i];
    }
  }
}
