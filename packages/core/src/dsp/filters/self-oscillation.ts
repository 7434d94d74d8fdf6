/** Share of the way to another amplitude that is gone in a step, per second: there within 150 ms. */
const SETTLE_S = 0.03;

/**
 * What a filter sounds by itself at full resonance, beside what goes through it. Of an undamped
 * two-integrator loop only the free response is left, a rotation by 2·atan(g) a sample, with
 * g = tan(π·fc/fs): the trapezoidal loop is the Cayley transform of a rotation, so its length stays while g
 * moves (Zavalishin, The Art of VA Filter Design, 2012, chapter 4). Run by itself, its pitch is that of the
 * cutoff and its level does not depend on what is played through the filter.
 */
export class SelfOscillation {
  /** Sine, cosine and amplitude. */
  private readonly state = new Float64Array(3);

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: SelfOscillation): void {
    this.state.set(other.state);
  }

  /** Sets it going at an amplitude, from 0. */
  excite(amplitude: number): void {
    this.state[0] = 0;
    this.state[1] = 1;
    this.state[2] = amplitude;
  }

  /** Whether there is something to add on the way to an amplitude. */
  sounds(amplitude: number): boolean {
    return amplitude > 0 || this.state[2] > 0;
  }

  /**
   * Adds it to the samples from `from` up to `to` while g runs evenly from `numbers[0]` (exclusive) to
   * `numbers[1]`, on its way to the amplitude `numbers[2]`; `numbers[3]` is the sample rate in hertz.
   */
  add(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state } = this;
    const count = to - from;
    let sine = state[0];
    let cosine = state[1];
    if (sine === 0 && cosine === 0) cosine = 1;
    let amplitude = state[2];
    const goes = numbers[2] - amplitude;
    const share = count / (SETTLE_S * numbers[3]);
    const reached = goes < 1e-6 && goes > -1e-6 ? numbers[2] : amplitude + goes * (share < 1 ? share : 1);
    const more = (reached - amplitude) / count;
    let g = numbers[0];
    const step = (numbers[1] - g) / count;
    for (let i = from; i < to; i++) {
      g += step;
      const turns = 1 / (1 + g * g);
      const c = (1 - g * g) * turns;
      const s = 2 * g * turns;
      const next = sine * c + cosine * s;
      cosine = cosine * c - sine * s;
      sine = next;
      amplitude += more;
      samples[i] += amplitude * sine;
    }
    // Rounding lengthens or shortens it by next to nothing in a step; so it stays at 1.
    const length = 1.5 - 0.5 * (sine * sine + cosine * cosine);
    state[0] = sine * length;
    state[1] = cosine * length;
    state[2] = reached;
  }
}
