import type { Filter } from '../document/index.js';
import { BUTTERWORTH_4, prewarp, SoftClip, StateVariable } from '../dsp/index.js';
import { dbToGain } from '../units/index.js';
import { CHUNK } from './chunk.js';

/** The filter of one side of a voice: rounding in front, then one or two state-variable sections. */
export class LayerFilter {
  private readonly clip = new SoftClip();
  private readonly first: StateVariable;
  private readonly second: StateVariable | null;
  private readonly staggered: boolean;
  /** Warped cutoff and drive gain at the end of the last step; below 0 before the first. */
  private readonly last = Float64Array.of(-1, 1);
  private readonly dry = new Float64Array(CHUNK);

  constructor(filter: Pick<Filter, 'mode' | 'slope'>, private readonly sampleRateHz: number) {
    this.first = new StateVariable(filter.mode);
    this.second = filter.slope === '24' ? new StateVariable(filter.mode) : null;
    this.staggered = filter.mode === 'low' || filter.mode === 'high';
  }

  reset(): void {
    this.first.reset();
    this.second?.reset();
    this.last[0] = -1;
  }

  copyFrom(other: LayerFilter): void {
    this.clip.copyFrom(other.clip);
    this.first.copyFrom(other.first);
    if (this.second && other.second) this.second.copyFrom(other.second);
    this.last.set(other.last);
  }

  /** Filters in place; cutoff in hertz, drive in dB (0: no rounding; the level is made good by half of it). */
  process(samples: Float64Array, frames: number, cutoffHz: number, q: number, driveDb: number): void {
    const { last } = this;
    const g1 = prewarp(cutoffHz, this.sampleRateHz);
    const g0 = last[0] < 0 ? g1 : last[0];
    last[0] = g1;
    const gain = dbToGain(driveDb);
    if (driveDb > 0 || last[1] > 1) this.drive(samples, frames, gain, driveDb);
    last[1] = gain;
    if (this.second === null) {
      this.first.process(samples, frames, g0, g1, 1 / q);
    } else if (this.staggered) {
      this.first.process(samples, frames, g0, g1, 1 / BUTTERWORTH_4[0]);
      this.second.process(samples, frames, g0, g1, 1 / (BUTTERWORTH_4[1] * q * Math.SQRT2));
    } else {
      this.first.process(samples, frames, g0, g1, 1 / q);
      this.second.process(samples, frames, g0, g1, 1 / q);
    }
  }

  /** Within the first dB of drive the rounding fades in, so that switching it on makes no step. */
  private drive(samples: Float64Array, frames: number, gain: number, driveDb: number): void {
    const wet = (driveDb < 1 ? driveDb : 1) / Math.sqrt(gain);
    const direct = driveDb < 1 ? 1 - driveDb : 0;
    const { dry } = this;
    for (let i = 0; i < frames; i++) dry[i] = samples[i];
    this.clip.process(samples, frames, this.last[1], gain);
    for (let i = 0; i < frames; i++) samples[i] = wet * samples[i] + direct * dry[i];
  }
}
