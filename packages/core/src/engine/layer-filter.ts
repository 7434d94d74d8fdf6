import type { Filter } from '../document/index.js';
import { BUTTERWORTH_4, prewarp, SoftClip, StateVariable, StateVariablePair } from '../dsp/index.js';
import { dbToGain } from '../units/index.js';
import { BLOCK } from './chunk.js';
import { CONTROL_CUTOFF, CONTROL_DRIVE_DB, CONTROL_Q } from './control.js';

/** The filter of one side of a voice: rounding in front, then one or two state-variable sections. */
export class LayerFilter {
  private readonly clip = new SoftClip();
  private readonly single: StateVariable;
  private readonly pair: StateVariablePair | null;
  private readonly staggered: boolean;
  /** Warped cutoff (below 0 before the first step), drive gain and cutoff at the end of the last step. */
  private readonly last = Float64Array.of(-1, 1, -1);
  private readonly dry = new Float64Array(BLOCK);
  /** For the sections: warped cutoff at the start and the end of the step, 1/Q of each. */
  private readonly numbers = new Float64Array(4);
  /** For the rounding: gain at the start and the end of the step, and the gain after it. */
  private readonly gains = new Float64Array(3);

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
  process(samples: Float64Array, from: number, to: number, control: Float64Array): void {
    const { last, numbers, gains } = this;
    const cutoffHz = control[CONTROL_CUTOFF];
    const q = control[CONTROL_Q];
    const driveDb = control[CONTROL_DRIVE_DB];
    const g = cutoffHz === last[2] ? last[0] : prewarp(cutoffHz, this.sampleRateHz);
    numbers[0] = last[0] < 0 ? g : last[0];
    numbers[1] = g;
    last[0] = g;
    last[2] = cutoffHz;
    gains[0] = last[1];
    gains[1] = last[1] = driveDb === 0 ? 1 : dbToGain(driveDb);
    if (driveDb > 0 || gains[0] > 1) this.drive(samples, from, to, control);
    numbers[2] = this.staggered && this.pair ? 1 / BUTTERWORTH_4[0] : 1 / q;
    numbers[3] = this.staggered ? 1 / (BUTTERWORTH_4[1] * q * Math.SQRT2) : 1 / q;
    if (this.pair === null) this.single.process(samples, from, to, numbers);
    else this.pair.process(samples, from, to, numbers);
  }

  /** Within the first dB of drive the rounding fades in, so that switching it on makes no step. */
  private drive(samples: Float64Array, from: number, to: number, control: Float64Array): void {
    const { dry, gains } = this;
    const driveDb = control[CONTROL_DRIVE_DB];
    gains[2] = (driveDb < 1 ? driveDb : 1) / Math.sqrt(gains[1]);
    if (driveDb < 1) for (let i = from; i < to; i++) dry[i] = samples[i];
    this.clip.process(samples, from, to, gains);
    if (driveDb < 1) for (let i = from; i < to; i++) samples[i] += (1 - driveDb) * dry[i];
  }
}
