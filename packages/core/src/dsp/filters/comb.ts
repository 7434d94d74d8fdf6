/** Longest delay in frames. */
const LONGEST = 16384;

/**
 * Comb with peaks (feedback) or dips (a share of the delayed taken off) at the multiples of its frequency,
 * or, negative, at the odd multiples: Smith,
 * Physical audio signal processing (2010), chapter on comb filters. The delay is read by Lagrange's formula
 * of third order. Near full
 * feedback what goes round is rounded and so stays bounded.
 */
export class Comb {
  private readonly ring = new Float64Array(LONGEST);
  private readonly at = new Int32Array(1);

  constructor(private readonly negative: boolean) {}

  reset(): void {
    this.ring.fill(0);
  }

  copyFrom(other: Comb): void {
    this.ring.set(other.ring);
    this.at.set(other.at);
  }

  /**
   * Filters in place while the delay in frames runs from `numbers[0]` (exclusive) to `numbers[1]`;
   * `numbers[2]` is the gain (0 to 1), `numbers[3]` 1 for
   * dips and 0 for peaks. A negative comb is given half the delay.
   */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { ring } = this;
    const dips = numbers[3] === 1;
    const gain = (this.negative ? -1 : 1) * (dips ? -1 : 1) * numbers[2];
    const size = numbers[2];
    const level = dips ? 1 / (1 + size) : Math.sqrt(1 - 0.9 * size);
    const rounds = size > 0.97 ? 0.1 : 0;
    let delay = numbers[0];
    const step = (numbers[1] - delay) / (to - from);
    let at = this.at[0];
    for (let i = from; i < to; i++) {
      delay += step;
      const whole = delay | 0;
      const d = delay - whole + 1;
      const place = at - whole + 1;
      const a = ring[place & (LONGEST - 1)];
      const b = ring[(place - 1) & (LONGEST - 1)];
      const c = ring[(place - 2) & (LONGEST - 1)];
      const e = ring[(place - 3) & (LONGEST - 1)];
      const late =
        (-(d - 1) * (d - 2) * (d - 3) * a) / 6 +
        (d * (d - 2) * (d - 3) * b) / 2 -
        (d * (d - 1) * (d - 3) * c) / 2 +
        (d * (d - 1) * (d - 2) * e) / 6;
      const x = samples[i];
      const y = x + gain * (rounds > 0 ? late / Math.sqrt(1 + rounds * late * late) : late);
      ring[at & (LONGEST - 1)] = dips ? x : y < 1e-18 && y > -1e-18 ? 0 : y;
      samples[i] = level * y;
      at = (at + 1) | 0;
    }
    this.at[0] = at & (LONGEST - 1);
  }
}
