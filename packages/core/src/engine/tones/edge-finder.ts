// Places in the state: the last three values.
const A = 0;
const B = 1;
const C = 2;

/**
 * Finds where a signal crosses zero between two of its samples: by the cubic through four of them, and two steps of Newton's method. It looks one
 * sample ahead, so what it says of a crossing is about the interval before the last sample but one.
 */
export class EdgeFinder {
  private readonly last = new Float64Array(3);
  /** Share of the interval at which the crossing lies; then +1 for one upward, −1 for one downward, 0 for none; then the state after the interval (1 above zero). */
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
    const { last, found } = this;
    const d = samples[i] - minus[i];
    const a = last[A], b = last[B], c = last[C];
    last[A] = b;
    last[B] = c;
    last[C] = d;
    found[2] = c > 0 ? 1 : 0;
    const before = b > 0 ? 1 : 0;
    found[1] = found[2] - before;
    if (found[1] === 0) return;
    // Lagrange through a (−1), b (0), c (1), d (2), in powers of t.
    const c0 = b;
    const c1 = c - a / 3 - b / 2 - d / 6;
    const c2 = (a + c) / 2 - b;
    const c3 = (b - c) / 2 + (d - a) / 6;
    let t = b / (b - c);
    for (let k = 0; k < 2; k++) {
      const slope = c1 + t * (2 * c2 + t * 3 * c3);
      if (slope > -1e-12 && slope < 1e-12) break;
      t -= (c0 + t * (c1 + t * (c2 + t * c3))) / slope;
    }
    found[0] = t < 0 ? 0 : t > 1 ? 1 : t;
  }
}
