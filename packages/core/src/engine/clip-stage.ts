import { DownTwice, SoftClip, UpTwice } from '../dsp/index.js';
import { CHUNK } from './chunk.js';

/** One side of the soft clip: twice oversampled and in antiderivative form, `TWICE_DELAY` frames late. */
export class ClipStage {
  private readonly up = new UpTwice();
  private readonly clip = new SoftClip();
  private readonly down = new DownTwice();
  private readonly wide = new Float64Array(2 * CHUNK);

  copyFrom(other: ClipStage): void {
    this.up.copyFrom(other.up);
    this.clip.copyFrom(other.clip);
    this.down.copyFrom(other.down);
  }

  process(samples: Float64Array, frames: number, gain0: number, gain1: number): void {
    this.up.process(samples, this.wide, frames);
    this.clip.process(this.wide, 2 * frames, gain0, gain1);
    this.down.process(this.wide, samples, frames);
  }
}
