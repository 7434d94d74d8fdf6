import { BLOCK, DRIVE_CLIP_DELAY, DriveClip, prewarp } from '../../dsp/index.js';
import { dbToGain } from '../../units/index.js';
import { FILTER, type FilterCore, type FilterForm, type FilterKind } from './filter-core.js';
import { kindOf } from './filter-kinds.js';

const { driveDb: DRIVE, levelDb: LEVEL } = FILTER;

/** A filter of one side of a voice: rounding in front, the filter itself, a level after it. */
export class LayerFilter {
  private readonly clip = new DriveClip(BLOCK);
  private readonly core: FilterCore;
  private readonly kind: FilterKind;
  /** Cutoff at the end of the last step (below 0 before the first), warped; drive and level gains there. */
  private readonly last = Float64Array.of(-1, -1, 1, 1);
  /** Warped cutoff at the start and the end of the step, and the cutoff as a share of the sample rate. */
  private readonly cutoff = new Float64Array(3);
  private readonly dry = new Float64Array(BLOCK);
  /** For the rounding: gain at the start and the end of the step, and the gain after it. */
  private readonly gains = new Float64Array(3);

  constructor(
    form: FilterForm,
    private readonly sampleRateHz: number,
  ) {
    this.kind = kindOf(form.mode);
    this.core = this.kind.make(form, sampleRateHz);
  }

  reset(): void {
    this.core.reset();
    this.clip.reset();
    this.last[0] = -1;
  }

  copyFrom(other: LayerFilter): void {
    this.clip.copyFrom(other.clip);
    this.core.copyFrom(other.core);
    this.last.set(other.last);
  }

  /** Frames by which what is oversampled comes late, with the numbers in `values` from `at` on. */
  lateFrames(values: Float64Array, at: number): number {
    return (values[at + DRIVE] > 0 ? DRIVE_CLIP_DELAY : 0) + this.kind.lateFrames;
  }

  /**
   * Filters the samples from `from` up to `to` in place: cutoff `hz[0]` in hertz, the other numbers in
   * `values` from `at` on.
   */
  process(
    samples: Float64Array,
    from: number,
    to: number,
    hz: Float64Array,
    values: Float64Array,
    at: number,
  ): void {
    const { last, cutoff, gains } = this;
    const first = last[0] < 0;
    if (first) this.core.excite?.(values, at);
    const g = hz[0] === last[0] ? last[1] : prewarp(hz[0], this.sampleRateHz);
    cutoff[0] = first ? g : last[1];
    cutoff[1] = last[1] = g;
    cutoff[2] = hz[0] / this.sampleRateHz;
    last[0] = hz[0];
    const driveDb = values[at + DRIVE];
    const drive = driveDb === 0 ? 1 : dbToGain(driveDb);
    gains[0] = first ? drive : last[2];
    gains[1] = last[2] = drive;
    if (driveDb > 0 || gains[0] > 1) this.drive(samples, from, to, driveDb < 1 ? 1 : 0, values, at);
    this.core.process(samples, from, to, cutoff, values, at);
    const level = values[at + LEVEL] === 0 ? 1 : dbToGain(values[at + LEVEL]);
    let gain = first ? level : last[3];
    last[3] = level;
    if (level === 1 && gain === 1) return;
    const step = (level - gain) / (to - from);
    for (let i = from; i < to; i++) {
      gain += step;
      samples[i] *= gain;
    }
  }

  /** Within the first dB of drive the rounding fades in, so that switching it on makes no step. */
  private drive(
    samples: Float64Array,
    from: number,
    to: number,
    fades: number,
    values: Float64Array,
    at: number,
  ): void {
    const { dry, gains } = this;
    const driveDb = values[at + DRIVE];
    gains[2] = (fades === 1 ? driveDb : 1) / Math.sqrt(gains[1]);
    if (fades === 1) for (let i = from; i < to; i++) dry[i] = samples[i];
    this.clip.process(samples, from, to, gains);
    if (fades === 1) for (let i = from; i < to; i++) samples[i] += (1 - driveDb) * dry[i];
  }
}
