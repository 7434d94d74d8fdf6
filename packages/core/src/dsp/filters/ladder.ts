import { LADDER_MIX } from './filter-design.js';

export type LadderMode = keyof typeof LADDER_MIX;
export type Slope = '6' | '12' | '18' | '24';

/**
 * Ladder of four one-poles with feedback, trapezoidal and without a delay in its loop: Zavalishin, The Art of
 * VA Filter Design (2012), chapter 5. What is fed
 * back is rounded. Lows keep their level at any feedback. It is run under a feedback of 4; what it sounds by
 * itself is `SelfOscillation`'s.
 */
export class Ladder {
  /** The four stages. */
  private readonly state = new Float64Array(4);
  private readonly mix: readonly number[];

  constructor(mode: LadderMode, slope: Slope) {
    this.mix = LADDER_MIX[mode][slope];
  }

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: Ladder): void {
    this.state.set(other.state);
  }

  /**
   * Filters in place while the warped cutoff runs from `numbers[0]` (exclusive) to `numbers[1]`; `numbers[2]`
   * is the feedback.
   */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state, mix } = this;
    const k = numbers[2];
    const c0 = mix[0],
      c1 = mix[1],
      c2 = mix[2],
      c3 = mix[3],
      c4 = mix[4];
    let s1 = state[0],
      s2 = state[1],
      s3 = state[2],
      s4 = state[3];
    let g = numbers[0];
    const step = (numbers[1] - g) / (to - from);
    for (let i = from; i < to; i++) {
      g += step;
      const h = 1 / (1 + g);
      const G = g * h;
      const x = samples[i] * (1 + k);
      // What the last stage would give without rounding, solved for the loop.
      const rest = h * (G * (G * (G * s1 + s2) + s3) + s4);
      const G4 = G * G * G * G;
      const last = (G4 * x + rest) / (1 + k * G4);
      const u = x - (k * last) / Math.sqrt(1 + 0.25 * last * last);
      const v1 = (u - s1) * G;
      const y1 = v1 + s1;
      s1 = y1 + v1;
      const v2 = (y1 - s2) * G;
      const y2 = v2 + s2;
      s2 = y2 + v2;
      const v3 = (y2 - s3) * G;
      const y3 = v3 + s3;
      s3 = y3 + v3;
      const v4 = (y3 - s4) * G;
      const y4 = v4 + s4;
      s4 = y4 + v4;
      samples[i] = c0 * u + c1 * y1 + c2 * y2 + c3 * y3 + c4 * y4;
    }
    state[0] = s1;
    state[1] = s2;
    state[2] = s3;
    state[3] = s4;
    for (let i = 0; i < 4; i++) if (state[i] < 1e-18 && state[i] > -1e-18) state[i] = 0;
  }
}
