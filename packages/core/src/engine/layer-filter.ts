import type { Filter } from '../document/index.js';
import { BUTTERWORTH_4, prewarp, SoftClip, StateVariable, StateVariablePair } from '../dsp/index.js';
import { dbToGain } from '../units/index.js';
import { BLOCK } from './chunk.js';

/** The filter of one side of a voice: rounding in front, then one or two state-variable sections. */
export class LayerFilter {
  private readonly clip = new SoftClip();
  private readonly single: StateVariable;
  private readonly pair: StateVariablePair | null;
  private readonly staggered: boolean;
  /** Warped cutoff (below 0 before the first step), drive gain and cutoff at the end of the last step. */
  private readonly last = Float64Array.of(-1, 1, -1);
  private readonly dry = new Float64Array(BLOCK);

  constructor(filter: Pick<Filter, 'mode' | 'slope'>, private readonly sampleRateHz: number) {
    this.single = new StateVariable(filter.mode);
    this.pair = filter.slope === '24' ? new StateVariablePair(filter.mode) : null;
    this.staggered = filter.mode === 'low' || filter.mode === 'high';
  }

  reset(): void {
    this.single.reset();
    this.pair?.reset();
    this.last[0] = -1;
    this.last[2] = -1;
  }

  copyFrom(other: LayerFilter): void {
    this.clip.copyFrom(other.clip);
    this.single.copyFrom(other.single);
    if (this.pair && other.pair) this.pair.copyFrom(other.pair);
    this.last.set(other.last);
  }

  /** Filters the samples from `from` up to `to` in place; cutoff in hertz, drive in dB (0: no rounding; the level is made good by half of it). */
  process(samples: Float64Array, from: number, to: number, cutoffHz: number, q: number, driveDb: number): void {
    const { last } = this;
    const g1 = cutoffHz === last[2] ? last[0] : prewarp(cutoffHz, this.sampleRateHz);
    const g0 = last[0] < 0 ? g1 : last[0];
    last[0] = g1;
    last[2] = cutoffHz;
    const gain = driveDb === 0 ? 1 : dbToGain(driveDb);
    if (driveDb > 0 || last[1] > 1) this.drive(samples, from, to, gain, driveDb);
    last[1] = gain;
    if (this.pair === null) this.single.process(samples, from, to, g0, g1, 1 / q);
    else if (this.staggered) this.pair.process(samples, from, to, g0, g1, 1 / BUTTERWORTH_4[0], 1 / (BUTTERWORTH_4[1] * q * Math.SQRT2));
    else this.pair.process(samples, from, to, g0, g1, 1 / q, 1 / q);
  }

  /** Within the first dB of drive the rounding fades in, so that switching it on makes no step. */
  private drive(samples: Float64Array, from: number, to: number, gain: number, driveDb: number): void {
    const wet = (driveDb < 1 ? driveDb : 1) / Math.sqrt(gain);
    const direct = driveDb < 1 ? 1 - driveDb : 0;
    const { dry } = this;
    for (let i = from; i < to; i++) dry[i] = samples[i];
    this.clip.process(samples, from, to, this.last[1], gain);
    for (let i = from; i < to; i++) samples[i] = wet * samples[i] + direct * dry[i];
  }
}
