import { BLOCK, LEAST_DELAY, MovingDelay, Random } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { built, unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';
import { delayField } from './sweep.js';

const LONGEST_MS = 10;

const shape = object({
  ...unitFields('rough delay'),
  delayMs: delayField(0.05, 5, 0.8),
  depthPct: number('Depth', '%', 0, 100, 40, 'How far the delay is shaken.', { ...movable, step: 0.5 }),
  source: built(['noise', 'sine'], 'noise'),
  rateHz: number('Rate', 'Hz', 20, 8000, 900, 'How fast it is shaken.', { ...log, ...movable }),
});
const NUMBER = placesOf(shape);

type RoughDelay = Infer<typeof shape>;

/** A delay of a few hundredths of a millisecond to five, shaken at audio rate: each partial grows sidebands. */
class RoughDelayRunner implements UnitRunner<RoughDelay> {
  readonly lateFrames = 0;
  private readonly rings: readonly MovingDelay[];
  private readonly line = new Float64Array(BLOCK);
  private readonly none = new Float64Array(1);
  private readonly random: Random;
  /** Phase of the shaking in turns; the values of the noise that it goes from and to. */
  private readonly state = new Float64Array(3);
  private readonly chance = new Float64Array(1);
  private readonly noise: boolean;
  private readonly rate: number;

  constructor(unit: RoughDelay, { sampleRateHz, seed }: UnitStart) {
    this.rate = sampleRateHz;
    this.noise = unit.source === 'noise';
    this.random = new Random(seed, 90);
    this.rings = [0, 1].map(() => new MovingDelay(Math.ceil((LONGEST_MS / 1000) * sampleRateHz)));
  }

  copyFrom(other: RoughDelayRunner): void {
    this.rings.forEach((ring, s) => {
      ring.copyFrom(other.rings[s]);
    });
    this.random.copyFrom(other.random);
    this.state.set(other.state);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { line, state, random, chance, noise, rate, rings, none } = this;
    const delay = (numbers[at + NUMBER.delayMs] / 1000) * rate;
    const depth = delay * (numbers[at + NUMBER.depthPct] / 100);
    const speed = numbers[at + NUMBER.rateHz] / rate;
    for (let i = from; i < to; i++) {
      state[0] += speed;
      if (state[0] >= 1) {
        state[0] -= 1;
        if (noise) {
          random.fill(chance, 1, 1);
          state[1] = state[2];
          state[2] = chance[0];
        }
      }
      const swing = noise ? state[1] + state[0] * (state[2] - state[1]) : Math.sin(2 * Math.PI * state[0]);
      const frames = delay + depth * swing;
      line[i] = frames < LEAST_DELAY ? LEAST_DELAY : frames;
    }
    rings[0].process(left, left, from, to, line, none);
    if (right !== left) rings[1].process(right, right, from, to, line, none);
  }
}

/** A shaken delay. */
export const roughDelay = unitKind({
  shape,
  family: 'movement',
  label: 'Rough delay',
  purpose: 'A very short delay shaken at audio rate: gravel and breath on every partial.',
  run: (unit, start) => new RoughDelayRunner(unit, start),
  chance: {
    stage: 'move',
    weight: 1,
    within: { delayMs: [0.2, 2], depthPct: [5, 50], rateHz: [100, 3000], wetPct: [20, 60] },
  },
  waitsS: () => LONGEST_MS / 1000,
});
