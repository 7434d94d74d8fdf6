import { cubicThrough } from './cubic.js';

/**
 * Finds where a signal crosses zero between two of its samples: by the cubic through four of them, and two
 * steps of Newton's method. It looks one
 * sample ahead, so what it says of a crossing is about the interval before the last sample but one.
 */
export class EdgeFinder {
  /** The last four values, oldest first. */
  private readonly last = new Float64Array(4);
  private readonly cubic = new Float64Array(4);
  /**
   * Share of the interval at which the crossing lies; then +1 for one upward, −1 for one downward, 0 for
   * none; then the state after the interval (1 above zero).
   */
  readonly found = new Float64Array(3);

  reset(): void {
    this.last.fill(0);
    this.found.fill(0);
  }

  copyFrom(other: EdgeFinder): void {
    this.last.set(other.last);
    this.found.set(other.found);
  }

  /** Takes the sample at `samples[i]`, less `minus[i]`. */
  take(samples: Float64Array, minus: Float64Array, i: number): void {
    const { last, found, cubic } = this;
    for (let k = 0; k < 3; k++) last[k] = last[k + 1];
    last[3] = samples[i] - minus[i];
    const before = last[1];
    const after = last[2];
    found[2] = after > 0 ? 1 : 0;
    found[1] = found[2] - (before > 0 ? 1 : 0);
    if (found[1] === 0) return;
    cubicThrough(last, cubic);
    const c0 = cubic[0],
      c1 = cubic[1],
      c2 = cubic[2],
      c3 = cubic[3];
    let t = before / (before - after);
    for (let k = 0; k < 2; k++) {
      const slope = c1 + t * (2 * c2 + t * 3 * c3);
      if (slope > -1e-12 && slope < 1e-12) break;
      t -= (c0 + t * (c1 + t * (c2 + t * c3))) / slope;
    }
    found[0] = t < 0 ? 0 : t > 1 ? 1 : t;
  }
}
