import { AboveOnly, BLOCK, LEAST_DELAY, MovingDelay } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { rebuilds } from '../../../schema/rebuild.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import {
  aboveField,
  LEAST_ABOVE_HZ,
  unitFields,
  unitKind,
  wetFrom,
  type UnitRunner,
  type UnitStart,
} from '../kind/unit-kind.js';
import { FeedbackNetwork } from './feedback-network.js';
import { runLine } from './sweep.js';

const decay = (label: string, def: number, help: string) =>
  number(label, 's', 0.1, 20, def, help, { ...log, ...movable, step: 0.01 });

const shape = object({
  ...unitFields('hall'),
  ...wetFrom(12),
  sizePct: rebuilds(
    'instrument',
    number('Size', '%', 0, 100, 30, 'From tight (0 %) to vast (100 %).', { step: 1 }),
  ),
  preDelayMs: number('Pre-delay', 'ms', 0, 200, 8, 'How late it begins.', { ...movable, step: 0.5 }),
  decayS: decay('Decay', 1, 'Time in which the mids fall by 60 dB.'),
  decayLowS: decay('Decay, lows', 0.8, 'The same below 300 Hz.'),
  decayHighS: decay('Decay, highs', 0.5, 'The same above 3.6 kHz.'),
  widthPct: number('Width', '%', 0, 100, 100, 'How wide it is.', { ...movable, step: 1 }),
  aboveHz: aboveField(150),
});
const NUMBER = placesOf(shape);

type Hall = Infer<typeof shape>;

const LONGEST_PRE_S = 0.21;

/** A room: pre-delay, then a feedback delay network (`FeedbackNetwork`); the lows are left alone. */
class HallRunner implements UnitRunner<Hall> {
  readonly lateFrames = 0;
  private readonly network: FeedbackNetwork;
  private readonly rings: readonly MovingDelay[];
  private readonly above: AboveOnly;
  private readonly line = new Float64Array(BLOCK);
  private readonly none = new Float64Array(1);
  private readonly wanted = new Float64Array(1);
  private readonly ends: readonly [Float64Array, Float64Array] = [Float64Array.of(NaN), Float64Array.of(NaN)];
  private readonly decays = new Float64Array(3);
  private readonly rate: number;

  constructor(unit: Hall, { sampleRateHz }: UnitStart) {
    this.rate = sampleRateHz;
    this.network = new FeedbackNetwork(unit.sizePct / 100, sampleRateHz);
    this.rings = [0, 1].map(() => new MovingDelay(Math.ceil(LONGEST_PRE_S * sampleRateHz)));
    this.above = new AboveOnly(sampleRateHz);
  }

  copyFrom(other: HallRunner): void {
    this.network.copyFrom(other.network);
    this.rings.forEach((ring, s) => {
      ring.copyFrom(other.rings[s]);
    });
    this.above.copyFrom(other.above);
    this.ends[0].set(other.ends[0]);
    this.ends[1].set(other.ends[1]);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { network, rings, above, line, none, wanted, ends, decays, rate } = this;
    const bound = numbers[at + NUMBER.aboveHz] > LEAST_ABOVE_HZ;
    if (bound) above.keep(left, right, from, to);
    wanted[0] = LEAST_DELAY + (numbers[at + NUMBER.preDelayMs] / 1000) * rate;
    for (let s = 0; s < 2; s++) {
      const samples = s === 0 ? left : right;
      if (ends[s][0] === wanted[0] && wanted[0] === Math.floor(wanted[0]))
        rings[s].shift(samples, from, to, wanted);
      else {
        runLine(line, from, to, ends[s], wanted, 0);
        rings[s].process(samples, samples, from, to, line, none);
      }
    }
    decays[0] = numbers[at + NUMBER.decayLowS];
    decays[1] = numbers[at + NUMBER.decayS];
    decays[2] = numbers[at + NUMBER.decayHighS];
    network.process(left, right, from, to, decays, numbers, at + NUMBER.widthPct);
    if (bound) above.restore(left, right, from, to, numbers, at + NUMBER.aboveHz);
  }
}

/** A room around it. */
export const hall = unitKind({
  shape,
  family: 'movement',
  label: 'Hall',
  purpose: 'A room around the sound, tight to vast, with a decay of its own for lows, mids and highs.',
  run: (unit, start) => new HallRunner(unit, start),
  chance: {
    stage: 'move',
    weight: 1,
    within: {
      sizePct: [0, 50],
      decayS: [0.3, 1.5],
      decayLowS: [0.2, 1],
      decayHighS: [0.2, 0.9],
      wetPct: [4, 18],
    },
  },
  widens: () => true,
  waitsS: ({ preDelayMs }) => preDelayMs / 1000 + 0.5,
});
