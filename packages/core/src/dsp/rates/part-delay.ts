/** Least delay of the allpass. */
const LEAST_PART = 0.4;

/**
 * Fills a delay up to whole frames, so that other ways can be kept in step: a first-order allpass of the rest
 * (Thiran, Recursive digital filters with maximally flat group delay, 1971).
 */
export class PartDelay {
  /** The whole delay in frames, at low frequencies exactly. */
  readonly lateFrames: number;
  private readonly share: number;
  private readonly last = new Float64Array(2);

  /** @param late frames by which what goes in comes late already. */
  constructor(late: number) {
    this.lateFrames = Math.ceil(late + LEAST_PART);
    const part = this.lateFrames - late;
    this.share = (1 - part) / (1 + part);
  }

  reset(): void {
    this.last.fill(0);
  }

  copyFrom(other: PartDelay): void {
    this.last.set(other.last);
  }

  /** Delays the samples from `from` up to `to` in place. */
  process(samples: Float64Array, from: number, to: number): void {
    const { last, share } = this;
    let x0 = last[0];
    let y0 = last[1];
    for (let i = from; i < to; i++) {
      const x = samples[i];
      y0 = share * (x - y0) + x0;
      x0 = x;
      samples[i] = y0;
    }
    last[0] = x0;
    last[1] = y0 < 1e-18 && y0 > -1e-18 ? 0 : y0;
  }
}
