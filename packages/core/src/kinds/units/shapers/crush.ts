import { Random } from '../../../dsp/index.js';
import { number } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { shaperKind, type OwnCurve } from './shaper.js';

// Places in the state: what is held, how far the next sample is on its way, its own pace.
const HELD = 0;
const PHASE = 1;
const PACE = 2;

/** Fewer bits and fewer samples; not oversampled, for what folds is what it is for. */
class CrushCurve implements OwnCurve {
  readonly lateSamples = 0;
  private readonly state = Float64Array.of(0, 1, 1);
  /** Step of the levels, samples taken in a frame, jitter and dither as a share. */
  private readonly form = Float64Array.of(2 ** -15, 1, 0, 0);
  private readonly random: Random;
  private readonly chance = new Float64Array(2);

  constructor(
    private readonly sampleRateHz: number,
    seed: number,
    stream: number,
  ) {
    this.random = new Random(seed, 40 + stream);
  }

  take(numbers: Float64Array, at: number): void {
    const { form } = this;
    form[0] = 2 ** (1 - numbers[at]);
    const pace = numbers[at + 2] / this.sampleRateHz;
    form[1] = pace < 1 ? pace : 1;
    form[2] = numbers[at + 3] / 100;
    form[3] = numbers[at + 1] / 100;
  }

  at(x: number): number {
    const held = x > 1 ? 1 : x < -1 ? -1 : x;
    return this.form[0] * Math.round(held / this.form[0]);
  }

  reset(): void {
    this.state.set([0, 1, 1]);
  }

  comeRound(): void {
    this.state[PHASE] = this.state[PACE] = 1;
    this.random.restart();
  }

  copyFrom(other: CrushCurve): void {
    this.state.set(other.state);
    this.form.set(other.form);
    this.random.copyFrom(other.random);
  }

  process(samples: Float64Array, count: number): void {
    const { state, form, random, chance } = this;
    const step = form[0];
    const rate = form[1];
    const jitter = form[2];
    const dither = form[3];
    for (let i = 0; i < count; i++) {
      state[PHASE] += rate * state[PACE];
      if (state[PHASE] >= 1 || rate === 1) {
        state[PHASE] -= Math.floor(state[PHASE]);
        let x = samples[i];
        x = x > 1 ? 1 : x < -1 ? -1 : x;
        if (dither > 0 || jitter > 0) random.fill(chance, 2, 0.5);
        // Two even numbers make the triangle by which a quantiser's error no longer depends on the signal.
        if (dither > 0) {
          x += dither * step * chance[0];
          random.fill(chance, 1, 0.5);
          x += dither * step * chance[0];
        }
        state[HELD] = step * Math.round(x / step);
        state[PACE] = jitter > 0 ? 1 / (1 + 1.8 * jitter * chance[1]) : 1;
      }
      samples[i] = state[HELD];
    }
  }
}

/**
 * Bit and rate reduction: rounding to 2ᵇ⁻¹ levels each way, with triangular dither where it is wanted (Lipshitz,
 * Wannamaker and Vanderkooy, Quantization and dither, 1992), and samples held. What folds back is its sound, and
 * is not held down as that of the other shapers.
 */
export const crush = shaperKind({
  kind: 'crush',
  label: 'Crush',
  chance: { weight: 1, within: { bits: [5, 10], rateHz: [3000, 20000], wetPct: [20, 60], driveDb: [0, 8] } },
  purpose: 'Fewer bits and fewer samples: grain and metal. What folds back is meant.',
  times: 1,
  fields: {
    bits: number('Bits', '', 1, 16, 8, 'Levels that are left, as bits.', { ...movable, step: 0.1 }),
    ditherPct: number('Dither', '%', 0, 100, 0, 'Noise that hides the steps between levels.', {
      ...movable,
      step: 1,
    }),
    rateHz: number('Rate', 'Hz', 200, 96000, 12000, 'Samples in a second.', { ...log, ...movable }),
    jitterPct: number('Jitter', '%', 0, 100, 0, 'How unevenly the samples are taken.', {
      ...movable,
      step: 1,
    }),
  },
  curve: ({ sampleRateHz, seed }, stream) => new CrushCurve(sampleRateHz, seed, stream),
});
