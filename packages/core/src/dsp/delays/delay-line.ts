import { BLOCK } from '../base/chunk.js';

/** Places in a bank's ring for each frame: a power of two, so that the ring wraps by a mask. */
const LANES = 8;

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
    this.run(samples, 0, count);
  }

  /** Takes the samples from `from` up to `to` in, where nobody hears what would come out. */
  take(samples: Float64Array, from: number, to: number): void {
    const { ring } = this;
    const mask = ring.length - 1;
    const start = this.at[0] - from;
    for (let i = from; i < to; i++) ring[(start + i) & mask] = samples[i];
    this.at[0] = (start + to) & mask;
  }

  /** Delays the samples from `from` up to `to`. */
  run(samples: Float64Array, from: number, to: number): void {
    const { ring, frames } = this;
    const mask = ring.length - 1;
    let at = this.at[0];
    for (let i = from; i < to; i++) {
      ring[at & mask] = samples[i];
      samples[i] = ring[(at - frames) & mask];
      at++;
    }
    this.at[0] = at & mask;
  }
}

/**
 * The dry way past something that comes as late as `wait`: the samples from `from` up to `to`, delayed, in `dry`. Where
 * none of it is `heard` it need not come out, but it has to run on.
 */
export function keepDry(
  samples: Float64Array,
  dry: Float64Array,
  wait: DelayLine,
  heard: boolean,
  from: number,
  to: number,
): void {
  if (heard) {
    for (let i = from; i < to; i++) dry[i] = samples[i];
    if (wait.frames > 0) wait.run(dry, from, to);
  } else if (wait.frames > 0) wait.take(samples, from, to);
}

/** The same fixed delay for three to eight blocks at once, in place: they take turns in one ring. */
export class DelayBank {
  private readonly ring: Float64Array;
  private readonly at = new Int32Array(1);

  constructor(
    readonly frames: number,
    private readonly blocks: readonly Float64Array[],
  ) {
    this.ring = new Float64Array(LANES * 2 ** Math.ceil(Math.log2(frames + BLOCK)));
  }

  copyFrom(other: DelayBank): void {
    this.ring.set(other.ring);
    this.at.set(other.at);
  }

  process(count: number): void {
    const { ring, blocks } = this;
    const a = blocks[0];
    const b = blocks[1];
    const c = blocks[2];
    const mask = ring.length - 1;
    const back = LANES * this.frames;
    let to = this.at[0];
    for (let i = 0; i < count; i++) {
      const from = (to - back) & mask;
      ring[to] = a[i];
      ring[to + 1] = b[i];
      ring[to + 2] = c[i];
      a[i] = ring[from];
      b[i] = ring[from + 1];
      c[i] = ring[from + 2];
      to = (to + LANES) & mask;
    }
    for (let lane = 3; lane < blocks.length; lane++) {
      const block = blocks[lane];
      let place = this.at[0] + lane;
      for (let i = 0; i < count; i++) {
        ring[place] = block[i];
        block[i] = ring[(place - back) & mask];
        place = (place + LANES) & mask;
      }
    }
    this.at[0] = to;
  }
}
