import { CLOSE, CLOSE_TWO, type Curve } from './curve.js';

/**
 * A curve of straight pieces that meet at −c and c: slope `below` under −c, 1 or more between, `above` beyond.
 * Second order. As a sum of ramps, f(x) = below·x + (mid−below)·r(x+c) + (above−mid)·r(x−c) − f(0) with
 * r(x) = max(0, x), its second antiderivative is the same sum of x³/6 and max(0, x)³/6, which is found without a
 * case for each piece.
 */
export class BentCurve implements Curve {
  readonly lateSamples = 1;
  private readonly state = new Float64Array(4);
  /** Corner, slopes below, between and above, what is taken off so that 0 gives 0. */
  private readonly form = Float64Array.of(0, 1, 1, 1, 0);

  /** @param numbers the corner c, and the slopes below, between and above. */
  set(numbers: Float64Array): void {
    const { form, state } = this;
    if (form[0] === numbers[0] && form[1] === numbers[1] && form[2] === numbers[2] && form[3] === numbers[3])
      return;
    for (let i = 0; i < 4; i++) form[i] = numbers[i];
    form[4] = (form[2] - form[1]) * form[0];
    // What was found of the last input was found with other slopes.
    const [x1, x2] = state;
    state[2] = this.second(x1);
    state[3] = this.between(x1, x2);
  }

  at(x: number): number {
    const [c, below, mid, above, off] = this.form;
    return below * x + (mid - below) * Math.max(0, x + c) + (above - mid) * Math.max(0, x - c) - off;
  }

  private first(x: number): number {
    const [c, below, mid, above, off] = this.form;
    const p = Math.max(0, x + c);
    const q = Math.max(0, x - c);
    return (below * x * x + (mid - below) * p * p + (above - mid) * q * q) / 2 - off * x;
  }

  private second(x: number): number {
    const [c, below, mid, above, off] = this.form;
    const p = Math.max(0, x + c);
    const q = Math.max(0, x - c);
    return (below * x ** 3 + (mid - below) * p ** 3 + (above - mid) * q ** 3) / 6 - (off * x * x) / 2;
  }

  private between(x: number, y: number): number {
    return Math.abs(x - y) > CLOSE ? (this.second(x) - this.second(y)) / (x - y) : this.first(0.5 * (x + y));
  }

  reset(): void {
    this.state.fill(0);
    this.state[2] = this.second(0);
    this.state[3] = this.first(0);
  }

  copyFrom(other: BentCurve): void {
    this.state.set(other.state);
    this.form.set(other.form);
  }

  process(samples: Float64Array, count: number): void {
    const { state, form } = this;
    const c = form[0];
    const below = form[1] / 6;
    const bendLow = (form[2] - form[1]) / 6;
    const bendHigh = (form[3] - form[2]) / 6;
    const off = form[4];
    let x1 = state[0];
    let x2 = state[1];
    let g1 = state[2];
    let before = state[3];
    for (let i = 0; i < count; i++) {
      const x = samples[i];
      const p = x + c > 0 ? x + c : 0;
      const q = x - c > 0 ? x - c : 0;
      const g = below * x * x * x + bendLow * p * p * p + bendHigh * q * q * q - 0.5 * off * x * x;
      const d = x - x1;
      let quotient: number;
      if (d > CLOSE || d < -CLOSE) quotient = (g - g1) / d;
      else {
        const m = 0.5 * (x + x1);
        const u = m + c > 0 ? m + c : 0;
        const v = m - c > 0 ? m - c : 0;
        quotient = 3 * (below * m * m + bendLow * u * u + bendHigh * v * v) - off * m;
      }
      const e = x - x2;
      if (e > CLOSE_TWO || e < -CLOSE_TWO) samples[i] = (2 * (quotient - before)) / e;
      else if (d > CLOSE_TWO || d < -CLOSE_TWO) {
        // The input came back to where it was two samples ago.
        const first = 3 * (below * x * x + bendLow * p * p + bendHigh * q * q) - off * x;
        samples[i] = (2 * (first - quotient)) / d;
      } else {
        const m = 0.25 * (x + 2 * x1 + x2);
        const u = m + c > 0 ? m + c : 0;
        const v = m - c > 0 ? m - c : 0;
        samples[i] = 6 * (below * m + bendLow * u + bendHigh * v) - off;
      }
      before = quotient;
      x2 = x1;
      x1 = x;
      g1 = g;
    }
    state[0] = x1;
    state[1] = x2;
    state[2] = g1;
    state[3] = before;
  }
}
