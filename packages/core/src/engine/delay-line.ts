/** A fixed delay of whole frames, in place. */
export class DelayLine {
  private readonly ring: Float64Array;
  private readonly at = new Int32Array(1);

  constructor(readonly frames: number) {
    this.ring = new Float64Array(Math.max(1, frames));
  }

  copyFrom(other: DelayLine): void {
    this.ring.set(other.ring);
    this.at[0] = other.at[0];
  }

  process(samples: Float64Array, frames: number): void {
    const { ring } = this;
    const n = this.frames;
    if (n === 0) return;
    let at = this.at[0];
    for (let i = 0; i < frames; i++) {
      const out = ring[at];
      ring[at] = samples[i];
      samples[i] = out;
      at = at + 1 === n ? 0 : at + 1;
    }
    this.at[0] = at;
  }
}
