import { BLOCK, LEAST_DELAY, MovingDelay } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { choice, number, object, type Infer } from '../../../schema/schema.js';
import { movable } from '../../../schema/shape-parts.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';
import { delayField, runLine, spreadField, Sweep, sweepRate, widening } from './sweep.js';

const shape = object({
  ...unitFields('flanger'),
  delayMs: delayField(0.1, 15, 1.5),
  depthPct: number('Depth', '%', 0, 100, 60, 'How far the delay swings.', { ...movable, step: 1 }),
  rateHz: sweepRate(0.25),
  feedbackPct: number('Feedback', '%', -95, 95, 30, 'What comes out goes in again; below 0 upside down.', {
    ...movable,
    step: 1,
  }),
  teeth: choice(['between', 'on'], 'between'),
  spreadPct: widening(spreadField(50)),
});
const NUMBER = placesOf(shape);

type Flanger = Infer<typeof shape>;

const LONGEST_MS = 30;

/**
 * The sound and a moved delay of it, half of each: a comb whose dips lie at the odd multiples of 1/(2·delay) (or, with
 * `teeth` on, at the whole multiples of 1/delay).
 */
class FlangerRunner implements UnitRunner<Flanger> {
  readonly lateFrames = 0;
  private readonly rings: readonly MovingDelay[];
  private readonly sweep = new Sweep();
  private readonly late = new Float64Array(BLOCK);
  private readonly line = new Float64Array(BLOCK);
  private readonly ends = new Float64Array(2).fill(NaN);
  private readonly wanted = new Float64Array(2);
  private readonly back = new Float64Array(1);
  private readonly rate: number;

  constructor(
    private unit: Flanger,
    { sampleRateHz }: UnitStart,
  ) {
    this.rate = sampleRateHz;
    this.rings = [0, 1].map(() => new MovingDelay(Math.ceil((LONGEST_MS / 1000) * sampleRateHz)));
  }

  set(unit: Flanger): void {
    this.unit = unit;
  }

  copyFrom(other: FlangerRunner): void {
    this.rings.forEach((ring, s) => {
      ring.copyFrom(other.rings[s]);
    });
    this.sweep.copyFrom(other.sweep);
    this.ends.set(other.ends);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { sweep, wanted, ends, line, late, back, rings, rate } = this;
    sweep.turn(to - from, numbers, at + NUMBER.rateHz, rate);
    const delay = (numbers[at + NUMBER.delayMs] / 1000) * rate;
    const depth = numbers[at + NUMBER.depthPct] / 100;
    const apart = 0.5 * (numbers[at + NUMBER.spreadPct] / 100);
    const sign = this.unit.teeth === 'between' ? 0.5 : -0.5;
    back[0] = numbers[at + NUMBER.feedbackPct] / 100;
    for (let s = 0; s < (right === left ? 1 : 2); s++) {
      const samples = s === 0 ? left : right;
      const swing = Math.sin(2 * Math.PI * (sweep.phase[0] + (s === 0 ? 0 : apart)));
      const frames = delay * (1 + 0.95 * depth * swing);
      wanted[s] = frames < LEAST_DELAY ? LEAST_DELAY : frames;
      runLine(line, from, to, ends, wanted, s);
      rings[s].process(samples, late, from, to, line, back);
      for (let i = from; i < to; i++) samples[i] = 0.5 * samples[i] + sign * late[i];
    }
  }
}

/** A swinging comb. */
export const flanger = unitKind({
  shape,
  family: 'movement',
  label: 'Flanger',
  purpose: 'A comb that sweeps: hollow, jet-like movement.',
  run: (unit, start) => new FlangerRunner(unit, start),
  chance: {
    stage: 'move',
    weight: 1,
    within: { delayMs: [0.4, 5], rateHz: [0.05, 1.5], feedbackPct: [-60, 60], wetPct: [30, 80] },
  },
  widens: ({ spreadPct }) => spreadPct > 0,
  waitsS: () => LONGEST_MS / 1000,
});
