import { prewarp } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { built, unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';
import { spreadField, Sweep, sweepRate, widening } from './sweep.js';

const MOST_STAGES = 12;

const shape = object({
  ...unitFields('phaser'),
  stages: built(['4', '6', '8', '10', '12'], '6'),
  centreHz: number('Centre', 'Hz', 60, 8000, 700, 'Where its dips stand.', { ...log, ...movable }),
  reachOct: number('Reach', 'oct', 0, 4, 1.5, 'How far they swing to either side.', {
    ...movable,
    step: 0.01,
  }),
  rateHz: sweepRate(0.3),
  feedbackPct: number('Feedback', '%', -95, 95, 40, 'Sharpens what lies between the dips.', {
    ...movable,
    step: 1,
  }),
  spreadPct: widening(spreadField(40)),
});
const NUMBER = placesOf(shape);

type Phaser = Infer<typeof shape>;

/** One side: first-order allpasses in a row, with a way back to their start. */
class Side {
  private readonly state = new Float64Array(MOST_STAGES + 2);
  /** What the first-order sections stand at; not a number before the first step. */
  private readonly last = Float64Array.of(NaN);

  constructor(private readonly stages: number) {}

  copyFrom(other: Side): void {
    this.state.set(other.state);
    this.last.set(other.last);
  }

  /** `form` holds the warped frequency at the step's end, and the feedback. */
  process(samples: Float64Array, from: number, to: number, form: Float64Array): void {
    const { state, last, stages } = this;
    const back = form[1];
    let g = last[0] === last[0] ? last[0] : form[0];
    const step = (form[0] - g) / (to - from);
    last[0] = form[0];
    let out = state[MOST_STAGES];
    for (let i = from; i < to; i++) {
      g += step;
      const share = g / (1 + g);
      const x = samples[i];
      let v = x + back * out;
      const turns = share + share - 1;
      const rest = 2 - 2 * share;
      for (let s = 0; s < stages; s++) {
        const before = state[s];
        const next = turns * v + rest * before;
        state[s] = before + 2 * share * (v - before);
        v = next;
      }
      out = v;
      samples[i] = 0.5 * (x + v);
    }
    state[MOST_STAGES] = out < 1e-18 && out > -1e-18 ? 0 : out;
    for (let s = 0; s < stages; s++) if (state[s] < 1e-18 && state[s] > -1e-18) state[s] = 0;
  }
}

/**
 * Four to twelve first-order allpasses of one frequency beside the sound itself: where they turn it by an odd multiple
 * of half a turn, at f·tan((2k+1)·π/(2N)), lie dips (Smith, Physical audio signal processing, 2010, on phasing). The
 * sections turn from +1 to −1, so an even number of them leaves the lows in step.
 */
class PhaserRunner implements UnitRunner<Phaser> {
  readonly lateFrames = 0;
  private readonly sides: readonly [Side, Side];
  private readonly sweep = new Sweep();
  private readonly form = new Float64Array(2);
  private readonly rate: number;

  constructor(unit: Phaser, { sampleRateHz }: UnitStart) {
    this.rate = sampleRateHz;
    this.sides = [new Side(Number(unit.stages)), new Side(Number(unit.stages))];
  }

  copyFrom(other: PhaserRunner): void {
    this.sides.forEach((side, s) => {
      side.copyFrom(other.sides[s]);
    });
    this.sweep.copyFrom(other.sweep);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { sides, sweep, form, rate } = this;
    sweep.turn(to - from, numbers, at + NUMBER.rateHz, rate);
    const apart = 0.5 * (numbers[at + NUMBER.spreadPct] / 100);
    form[1] = numbers[at + NUMBER.feedbackPct] / 100;
    for (let s = 0; s < (right === left ? 1 : 2); s++) {
      const swing = Math.sin(2 * Math.PI * (sweep.phase[0] + (s === 0 ? 0 : apart)));
      const hz = numbers[at + NUMBER.centreHz] * Math.exp(Math.LN2 * numbers[at + NUMBER.reachOct] * swing);
      form[0] = prewarp(hz < 20 ? 20 : hz, rate);
      sides[s].process(s === 0 ? left : right, from, to, form);
    }
  }
}

/** Sweeping dips. */
export const phaser = unitKind({
  shape,
  family: 'movement',
  label: 'Phaser',
  purpose: 'Dips that sweep up and down: liquid movement without a change of pitch.',
  run: (unit, start) => new PhaserRunner(unit, start),
  chance: {
    stage: 'move',
    weight: 2,
    within: { centreHz: [300, 2500], rateHz: [0.05, 2], feedbackPct: [0, 60], wetPct: [40, 100] },
  },
  widens: ({ spreadPct }) => spreadPct > 0,
  response: ({ stages, centreHz }) => {
    const count = Number(stages);
    return (hz) => {
      const turn = -2 * count * Math.atan(hz / centreHz);
      return 20 * Math.log10(Math.max(1e-4, Math.hypot(0.5 * (1 + Math.cos(turn)), 0.5 * Math.sin(turn))));
    };
  },
});
