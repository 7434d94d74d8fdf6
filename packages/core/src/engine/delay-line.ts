import { BLOCK } from './chunk.js';

/** A fixed delay of whole frames, in place, a block at a time. */
export class DelayLine {
  private readonly ring: Float64Array;
  private readonly at = new Int32Array(1);

  constructor(readonly frames: number) {
    this.ring = new Float64Array(2 ** Math.ceil(Math.log2(frames + BLOCK)));
  }

  copyFrom(other: DelayLine): void {
    this.ring.set(other.ring);
    this.at.set(other.at);
  }

  process(samples: Float64Array, count: number): void {
    const { ring, frames } = this;
    const mask = ring.length - 1;
    const at = this.at[0];
    for (let i = 0; i < count; i++) {
      ring[(at + i) & mask] = samples[i];
      samples[i] = ring[(at + i - frames) & mask];
    }
    this.at[0] = (at + count) & mask;
  }
}
