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
    if (step !== 0) now = g[0];
    for (let i = from; i < to; i++) {
      if (step !== 0) {
        now += step;
        ga = W1 * now;
        gb = W2 * now;
        a = 1 / (1 + ga * (ga + K1));
        b = 1 / (1 + gb * (gb + K2));
      }
      let x = samples[i];
      let band = a * (p1 + ga * (x - p2));
      let low = p2 + ga * band;
      p1 = band + band - p1;
      p2 = low + low - p2;
      x += (Z1 - 1) * low - K1 * band;
      band = b * (q1 + gb * (x - q2));
      low = q2 + gb * band;
      q1 = band + band - q1;
      q2 = low + low - q2;
      x += (Z2 - 1) * low - K2 * band;
      band = a * (r1 + ga * (x - r2));
      low = r2 + ga * band;
      r1 = band + band - r1;
      r2 = low + low - r2;
      x += (Z1 - 1) * low - K1 * band;
      band = b * (t1 + gb * (x - t2));
      low = t2 + gb * band;
      t1 = band + band - t1;
      t2 = low + low - t2;
      samples[i] = x + (Z2 - 1) * low - K2 * band;
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
    for (let i = from; i < to; i++) {
      gc += step;
      const ga = W1 * gc;
      const gb = W2 * gc;
      let x = samples[i];
      const c = 1 / (1 + gc * (gc + Math.SQRT2));
      const a = 1 / (1 + ga * (ga + K1));
      const b = 1 / (1 + gb * (gb + K2));
      let band = c * (p1 + gc * (x - p2));
      let low = p2 + gc * band;
      p1 = band + band - p1;
      p2 = low + low - p2;
      x -= 2 * Math.SQRT2 * band;
      band = a * (q1 + ga * (x - q2));
      low = q2 + ga * band;
      q1 = band + band - q1;
      q2 = low + low - q2;
      x -= 2 * K1 * band;
      band = b * (r1 + gb * (x - r2));
      low = r2 + gb * band;
      r1 = band + band - r1;
      r2 = low + low - r2;
      samples[i] = x - 2 * K2 * band;
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
