import { LADDER_HELD_FROM, LADDER_MIX, ladderHold, ladderOscillation } from './filter-design.js';
import { FOLLOWS } from './state-variable.js';

export type LadderMode = keyof typeof LADDER_MIX;
export type Slope = '6' | '12' | '18' | '24';

/**
 * Ladder of four one-poles with feedback, trapezoidal and without a delay in its loop: Zavalishin, The Art of VA Filter Design (2012), chapter 5. What is fed
 * back is rounded; near a feedback of 4, at which the ladder sounds by itself, the feedback is lessened by the mean square of what rings at the cutoff instead, which leaves the loop linear from sample to
 * sample, and so in tune. Lows keep their level at any feedback.
 */
export class Ladder {
  /** The four stages, and the mean square of what rings. */
  private readonly state = new Float64Array(5);
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

  /** Sets the stages as they stand where the ladder sounds by itself, at a moment at which what it puts out is 0: it need not build up from nothing. */
  excite(k: number): void {
    const amplitude = ladderOscillation(k);
    if (amplitude === 0) return;
    const { mix, state } = this;
    // Against the last stage those before it stand 45° ahead and √2 as high each, the input four times as high and opposed.
    let sine = -4 * mix[0];
    let cosine = 0;
    for (let stage = 1; stage <= 4; stage++) {
      const size = Math.SQRT2 ** (4 - stage);
      const angle = ((4 - stage) * Math.PI) / 4;
      sine += mix[stage] * size * Math.cos(angle);
      cosine += mix[stage] * size * Math.sin(angle);
    }
    const begins = -Math.atan2(cosine, sine);
    for (let stage = 1; stage <= 4; stage++) state[stage - 1] = amplitude * Math.SQRT2 ** (4 - stage) * Math.sin(begins + ((4 - stage) * Math.PI) / 4);
    state[4] = 0.5 * amplitude * amplitude;
  }

  /** Filters in place while the warped cutoff runs from `numbers[0]` (exclusive) to `numbers[1]`; `numbers[2]` is the feedback. */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    if (numbers[2] > LADDER_HELD_FROM) return this.processHeld(samples, from, to, numbers);
    const { state, mix } = this;
    const k = numbers[2];
    const c0 = mix[0], c1 = mix[1], c2 = mix[2], c3 = mix[3], c4 = mix[4];
    let s1 = state[0], s2 = state[1], s3 = state[2], s4 = state[3];
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
    state[0] = s1; state[1] = s2; state[2] = s3; state[3] = s4;
    for (let i = 0; i < 4; i++) if (state[i] < 1e-18 && state[i] > -1e-18) state[i] = 0;
  }

  /** The same near and past the feedback at which it sounds by itself. */
  private processHeld(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { state, mix } = this;
    const full = numbers[2];
    const hold = ladderHold(full);
    const c0 = mix[0], c1 = mix[1], c2 = mix[2], c3 = mix[3], c4 = mix[4];
    let s1 = state[0], s2 = state[1], s3 = state[2], s4 = state[3];
    let mean = state[4];
    let g = numbers[0];
    const step = (numbers[1] - g) / (to - from);
    for (let i = from; i < to; i++) {
      g += step;
      const h = 1 / (1 + g);
      const G = g * h;
      const k = full / (1 + hold * mean);
      const x = samples[i] * (1 + full);
      const rest = h * (G * (G * (G * s1 + s2) + s3) + s4);
      const G4 = G * G * G * G;
      const u = x - (k * (G4 * x + rest)) / (1 + k * G4);
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
      // Between the last two stages lies what is near the cutoff: as high there as the last stage itself, and little of the lows that go through.
      const near = y3 - y4;
      mean += FOLLOWS * G * (near * near - mean);
      samples[i] = c0 * u + c1 * y1 + c2 * y2 + c3 * y3 + c4 * y4;
    }
    state[0] = s1; state[1] = s2; state[2] = s3; state[3] = s4; state[4] = mean;
    for (let i = 0; i < 5; i++) if (state[i] < 1e-18 && state[i] > -1e-18) state[i] = 0;
  }
}
