/** Samples in front of a delay's place that its reading takes: a delay is no shorter. */
export const LEAST_DELAY = 2;

const SIXTH = 1 / 6;

/**
 * A delay whose length moves from frame to frame, read between samples by Lagrange's formula of third order
 * (Laakso, Välimäki, Karjalainen and Laine, Splitting the unit delay, 1996), with a way back to its start.
 */
export class MovingDelay {
  private readonly ring: Float64Array;
  private readonly at = new Int32Array(1);

  /** @param longest frames of the longest delay. */
  constructor(longest: number) {
    this.ring = new Float64Array(2 ** Math.ceil(Math.log2(longest + 4)));
  }

  reset(): void {
    this.ring.fill(0);
  }

  copyFrom(other: MovingDelay): void {
    if (other.ring.length !== this.ring.length) return;
    this.ring.set(other.ring);
    this.at.set(other.at);
  }

  /** Takes the samples from `from` up to `to` in, for `add`. */
  write(samples: Float64Array, from: number, to: number): void {
    const { ring } = this;
    const mask = ring.length - 1;
    let at = this.at[0];
    for (let i = from; i < to; i++) {
      ring[at & mask] = samples[i];
      at++;
    }
    this.at[0] = at & mask;
  }

  /**
   * Adds to `out`, times `gains[at]`, what was taken in last, later by a delay that runs evenly from `ends[at]`,
   * where it stood before (not a number where it did not), to `wanted[at]`, which is taken down there.
   */
  add(
    out: Float64Array,
    from: number,
    to: number,
    ends: Float64Array,
    wanted: Float64Array,
    gains: Float64Array,
    at: number,
  ): void {
    const { ring } = this;
    const mask = ring.length - 1;
    const share = gains[at];
    const start = this.at[0] - to;
    let delay = ends[at] === ends[at] ? ends[at] : wanted[at];
    const step = (wanted[at] - delay) / (to - from);
    ends[at] = wanted[at];
    for (let i = from; i < to; i++) {
      delay += step;
      const whole = delay | 0;
      const part = delay - whole;
      const place = start + i - whole;
      const a = ring[(place + 1) & mask];
      const b = ring[place & mask];
      const c = ring[(place - 1) & mask];
      const e = ring[(place - 2) & mask];
      const inner = part * (part - 1);
      const outer = 0.5 * (part + 1) * (part - 2);
      out[i] +=
        share * (outer * ((part - 1) * b - part * c) + SIXTH * inner * ((part + 1) * e - (part - 2) * a));
    }
  }

  /** Delays the samples from `from` up to `to` in place by a delay that stands still, in whole frames: `frames[0]`. */
  shift(samples: Float64Array, from: number, to: number, frames: Float64Array): void {
    const { ring } = this;
    const mask = ring.length - 1;
    const late = frames[0] | 0;
    let at = this.at[0];
    for (let i = from; i < to; i++) {
      ring[at & mask] = samples[i];
      samples[i] = ring[(at - late) & mask];
      at = (at + 1) | 0;
    }
    this.at[0] = at & mask;
  }

  /**
   * Takes the samples from `from` up to `to` and writes what comes out to `out`, which may be the same block;
   * `delays` holds the delay of each in frames, no less than `LEAST_DELAY`; what comes out goes in again by
   * `back[0]`.
   */
  process(
    samples: Float64Array,
    out: Float64Array,
    from: number,
    to: number,
    delays: Float64Array,
    back: Float64Array,
  ): void {
    const { ring } = this;
    const mask = ring.length - 1;
    const feedback = back[0];
    let at = this.at[0];
    for (let i = from; i < to; i++) {
      const delay = delays[i];
      const whole = delay | 0;
      const part = delay - whole;
      const place = at - whole;
      // The sample newer than the place, those on both sides of it, and the one before.
      const a = ring[(place + 1) & mask];
      const b = ring[place & mask];
      const c = ring[(place - 1) & mask];
      const e = ring[(place - 2) & mask];
      const inner = part * (part - 1);
      const outer = 0.5 * (part + 1) * (part - 2);
      const late = outer * ((part - 1) * b - part * c) + SIXTH * inner * ((part + 1) * e - (part - 2) * a);
      const y = samples[i] + feedback * late;
      ring[at & mask] = y < 1e-18 && y > -1e-18 ? 0 : y;
      out[i] = late;
      at = (at + 1) | 0;
    }
    this.at[0] = at & mask;
  }
}
