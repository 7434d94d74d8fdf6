import { BLOCK } from './chunk.js';

/** A fixed delay of whole frames, in place, a block at a time. */
export class DelayLine {
  /** The last `frames` samples, then room for a block. */
  private readonly past: Float64Array;

  constructor(readonly frames: number) {
    this.past = new Float64Array(frames + BLOCK);
  }

  copyFrom(other: DelayLine): void {
    this.past.set(other.past);
  }

  process(samples: Float64Array, count: number): void {
    const { past, frames } = this;
    for (let i = 0; i < count; i++) past[frames + i] = samples[i];
    for (let i = 0; i < count; i++) samples[i] = past[i];
    past.copyWithin(0, count, count + frames);
  }
}
