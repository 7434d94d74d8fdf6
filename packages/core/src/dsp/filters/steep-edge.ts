/**
 * The steep edge under the clean path: what the clip makes below it is taken out again, 56 dB down from 0.8
 * of the crossover downward. An elliptic high-pass of order
 * 4 (0.1 dB, 28 dB, its pass band from 1.2 times the crossover), run twice: Zverev, Handbook of filter
 * synthesis (1967); its poles and zeros as
 * `scipy.signal.ellip(4, 0.1, 28, 1.2, 'high', analog=True)` gives them (a test). A filter N/D run twice has,
 * where N is real on the imaginary axis, the phase of
 * the allpass D(−s)/D(s) (as Linkwitz and Riley's, which is the case of a Butterworth): what goes round it
 * through that allpass stays in step with what it lets
 * through.
 */

/**
 * Of each of the two sections: its pole's and its zero's frequency over the crossover, and the damping 1/Q of
 * its pole.
 */
export const STEEP_SECTIONS = [
  { pole: 1.274683077, zero: 0.3553359511, k: 1.490768987 },
  { pole: 1.071715452, zero: 0.7715117785, k: 0.3015451538 },
] as const;

const W1 = STEEP_SECTIONS[0].pole;
const K1 = STEEP_SECTIONS[0].k;
const Z1 = (STEEP_SECTIONS[0].zero / W1) ** 2;
const W2 = STEEP_SECTIONS[1].pole;
const K2 = STEEP_SECTIONS[1].k;
const Z2 = (STEEP_SECTIONS[1].zero / W2) ** 2;
/** What is taken of the sums of low and of band before and after. */
const LOW_1 = (Z1 - 1) / 2;
const LOW_2 = (Z2 - 1) / 2;
const BAND_1 = K1 / 2;
const BAND_2 = K2 / 2;

/** Rests would otherwise sink into subnormal numbers, which are slow. */
function settle(state: Float64Array): void {
  for (let i = 0; i < state.length; i++) if (state[i] < 1e-18 && state[i] > -1e-18) state[i] = 0;
}

/**
 * The high-pass, twice; trapezoidal sections as in `StateVariable`, each giving its high output and a share
 * of its low one.
 */
export class SteepHigh {
  private readonly state = new Float64Array(8);

  copyFrom(other: SteepHigh): void {
    this.state.set(other.state);
  }

  /** Filters the samples from `from` up to `to` in place; the warped crossover runs from `g[0]` (exclusive) to `g[1]`. */
  process(samples: Float64Array, from: number, to: number, g: Float64Array): void {
    const { state } = this;
    let p1 = state[0],
      p2 = state[1],
      q1 = state[2],
      q2 = state[3];
    let r1 = state[4],
      r2 = state[5],
      t1 = state[6],
      t2 = state[7];
    const step = (g[1] - g[0]) / (to - from);
    let now = g[1];
    let ga = W1 * now;
    let gb = W2 * now;
    let a = 1 / (1 + ga * (ga + K1));
    let b = 1 / (1 + gb * (gb + K2));
    let ca = 2 * a * ga;
    let cb = 2 * b * gb;
    let staysA1 = a + a - 1;
    let staysA2 = 1 - ca * ga;
    let staysB1 = b + b - 1;
    let staysB2 = 1 - cb * gb;
    if (step !== 0) now = g[0];
    for (let i = from; i < to; i++) {
      if (step !== 0) {
        now += step;
        ga = W1 * now;
        gb = W2 * now;
        a = 1 / (1 + ga * (ga + K1));
        b = 1 / (1 + gb * (gb + K2));
        ca = 2 * a * ga;
        cb = 2 * b * gb;
        staysA1 = a + a - 1;
        staysA2 = 1 - ca * ga;
        staysB1 = b + b - 1;
        staysB2 = 1 - cb * gb;
      }
      let x = samples[i];
      let next1 = staysA1 * p1 + ca * (x - p2);
      let next2 = staysA2 * p2 + ca * (p1 + ga * x);
      x += LOW_1 * (p2 + next2) - BAND_1 * (p1 + next1);
      p1 = next1;
      p2 = next2;
      next1 = staysB1 * q1 + cb * (x - q2);
      next2 = staysB2 * q2 + cb * (q1 + gb * x);
      x += LOW_2 * (q2 + next2) - BAND_2 * (q1 + next1);
      q1 = next1;
      q2 = next2;
      next1 = staysA1 * r1 + ca * (x - r2);
      next2 = staysA2 * r2 + ca * (r1 + ga * x);
      x += LOW_1 * (r2 + next2) - BAND_1 * (r1 + next1);
      r1 = next1;
      r2 = next2;
      next1 = staysB1 * t1 + cb * (x - t2);
      next2 = staysB2 * t2 + cb * (t1 + gb * x);
      samples[i] = x + LOW_2 * (t2 + next2) - BAND_2 * (t1 + next1);
      t1 = next1;
      t2 = next2;
    }
    state[0] = p1;
    state[1] = p2;
    state[2] = q1;
    state[3] = q2;
    state[4] = r1;
    state[5] = r2;
    state[6] = t1;
    state[7] = t2;
    settle(state);
  }
}

/**
 * The allpass whose phase is that of the crossover's high side and of the steep edge after it: 1 in magnitude
 * at every frequency.
 */
export class SteepAllpass {
  private readonly state = new Float64Array(6);

  copyFrom(other: SteepAllpass): void {
    this.state.set(other.state);
  }

  /** Filters the samples from `from` up to `to` in place; the warped crossover runs from `g[0]` (exclusive) to `g[1]`. */
  process(samples: Float64Array, from: number, to: number, g: Float64Array): void {
    const { state } = this;
    let p1 = state[0],
      p2 = state[1],
      q1 = state[2],
      q2 = state[3],
      r1 = state[4],
      r2 = state[5];
    const step = (g[1] - g[0]) / (to - from);
    let gc = g[0];
    let ga = W1 * gc;
    let gb = W2 * gc;
    let c = 1 / (1 + gc * (gc + Math.SQRT2));
    let a = 1 / (1 + ga * (ga + K1));
    let b = 1 / (1 + gb * (gb + K2));
    let cc = 2 * c * gc;
    let ca = 2 * a * ga;
    let cb = 2 * b * gb;
    for (let i = from; i < to; i++) {
      if (step !== 0) {
        gc += step;
        ga = W1 * gc;
        gb = W2 * gc;
        c = 1 / (1 + gc * (gc + Math.SQRT2));
        a = 1 / (1 + ga * (ga + K1));
        b = 1 / (1 + gb * (gb + K2));
        cc = 2 * c * gc;
        ca = 2 * a * ga;
        cb = 2 * b * gb;
      }
      let x = samples[i];
      let next = (c + c - 1) * p1 + cc * (x - p2);
      p2 = (1 - cc * gc) * p2 + cc * (p1 + gc * x);
      x -= Math.SQRT2 * (p1 + next);
      p1 = next;
      next = (a + a - 1) * q1 + ca * (x - q2);
      q2 = (1 - ca * ga) * q2 + ca * (q1 + ga * x);
      x -= K1 * (q1 + next);
      q1 = next;
      next = (b + b - 1) * r1 + cb * (x - r2);
      r2 = (1 - cb * gb) * r2 + cb * (r1 + gb * x);
      samples[i] = x - K2 * (r1 + next);
      r1 = next;
    }
    state[0] = p1;
    state[1] = p2;
    state[2] = q1;
    state[3] = q2;
    state[4] = r1;
    state[5] = r2;
    settle(state);
  }
}
