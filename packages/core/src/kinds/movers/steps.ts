import { placesOf } from '../../schema/places.js';
import { choice, list, number, object, type Infer } from '../../schema/schema.js';
import { log, movable } from '../../schema/shape-parts.js';
import { MOST_STEPS } from '../../schema/bounds.js';
import { TICKS_PER_BEAT } from '../../units/index.js';
import {
  BY_KICK,
  moverFields,
  moverKind,
  PLAYED_NUMBER,
  PLAYED_TIE,
  type MoverInputs,
  type MoverRunner,
  type MoverStart,
} from './mover-kind.js';
import { chanceOf } from './chance.js';

const shape = object({
  ...moverFields('steps', 'steps-1', 'Note steps'),
  next: choice(['note', 'kick', 'time'], 'note'),
  rateBeats: number('Each', 'beats', 1 / 12, 4, 0.5, 'How long a step lasts; 1/8 is half a beat.', log),
  order: choice(['in order', 'backwards', 'there and back', 'any'], 'in order'),
  glideMs: number('Glide', 'ms', 0, 1000, 0, 'How long it takes from one value to the next.', {
    ...movable,
    step: 1,
  }),
  values: list(number('Step', '', 0, 1, 0.5, 'Value of this step.', { step: 0.005 }), 2, MOST_STEPS),
});
const NUMBER = placesOf(shape);

type Steps = Infer<typeof shape>;

// Places in the state: number of the step since the line began, which value it is, where the value stands,
// what is left of the way to it, ticks while the loop does not run, where the draw by chance stands.
const STEP = 0;
const WHICH = 1;
const VALUE = 2;
const GAP = 3;
const TICKS = 4;
const DRAWN = 5;
const GLIDE_MS = 6;
const FROM_GAP = 7;

/**
 * Which of `count` values comes at a step, for an order that is not by chance.
 */
export function placeInOrder(order: Steps['order'], step: number, count: number): number {
  if (order === 'backwards') return count - 1 - (step % count);
  if (order !== 'there and back') return step % count;
  const round = step % (2 * count - 2);
  return round < count ? round : 2 * count - 2 - round;
}

class StepsRunner implements MoverRunner<Steps> {
  private readonly state = Float64Array.of(-1, 0, 0, 0, 0, -1, 0, 0);
  private readonly drawn = new Float64Array(1);
  private readonly inputs: MoverInputs;
  private readonly sampleRateHz: number;
  private readonly seed: number;
  private readonly stream: number;

  constructor(
    private steps: Steps,
    { sampleRateHz, inputs, seed, stream }: MoverStart,
  ) {
    this.sampleRateHz = sampleRateHz;
    this.inputs = inputs;
    this.seed = seed;
    this.stream = stream;
    this.state[VALUE] = steps.values[placeInOrder(steps.order, 0, steps.values.length)];
  }

  set(steps: Steps): void {
    const { state } = this;
    const before = this.steps;
    this.steps = steps;
    if (state[STEP] < 0 || steps.values.length !== before.values.length || steps.order !== before.order)
      this.find(Math.max(0, state[STEP]));
    // Where a glide is on its way it ends at what is drawn now.
    state[GAP] = state[FROM_GAP] = 0;
    state[VALUE] = steps.values[state[WHICH]];
  }

  tune(moved: Float64Array, at: number): void {
    this.state[GLIDE_MS] = moved[at + NUMBER.glideMs];
  }

  copyFrom(other: StepsRunner): void {
    this.state.set(other.state);
    if (this.state[WHICH] >= this.steps.values.length) this.state[WHICH] = 0;
  }

  /** Finds which value a step has; by chance it is never the one before. */
  private find(step: number): void {
    const { state, drawn, steps } = this;
    const count = steps.values.length;
    if (steps.order !== 'any') {
      state[WHICH] = placeInOrder(steps.order, step, count);
      return;
    }
    // From the start of the line on, so that a step is the same wherever it was come to from.
    if (state[DRAWN] > step || state[DRAWN] < 0) {
      chanceOf(this.seed, this.stream, 0, drawn);
      state[WHICH] = Math.floor(drawn[0] * count);
      state[DRAWN] = 0;
    }
    while (state[DRAWN] < step) {
      state[DRAWN]++;
      chanceOf(this.seed, this.stream, state[DRAWN], drawn);
      state[WHICH] = (state[WHICH] + 1 + Math.floor(drawn[0] * (count - 1))) % count;
    }
  }

  private go(step: number): void {
    const { state, steps } = this;
    const from = state[VALUE] + state[GAP];
    state[STEP] = step;
    this.find(step);
    state[VALUE] = steps.values[state[WHICH]];
    state[GAP] = state[FROM_GAP] = state[GLIDE_MS] > 0 ? from - state[VALUE] : 0;
  }

  noteOn(): void {
    const { note } = this.inputs;
    if (this.steps.next !== 'note' || note[PLAYED_TIE] === 1) return;
    this.go(note[PLAYED_NUMBER] >= 0 ? note[PLAYED_NUMBER] : this.state[STEP] + 1);
  }

  struck(by: number, number: number): void {
    if (this.steps.next !== 'kick' || by !== BY_KICK) return;
    this.go(number >= 0 ? number : this.state[STEP] + 1);
  }

  tell(values: Float64Array, at: number): void {
    values[at] = this.state[VALUE] + this.state[GAP];
  }

  step(frames: number, values: Float64Array, at: number): void {
    this.run(frames);
    this.tell(values, at);
  }

  private run(frames: number): void {
    const { state, inputs, steps } = this;
    if (state[GAP] !== 0) {
      const less = (state[FROM_GAP] * frames * 1000) / (state[GLIDE_MS] * this.sampleRateHz);
      const gap = state[GAP] - less;
      state[GAP] = state[GLIDE_MS] === 0 || gap * state[FROM_GAP] <= 0 ? 0 : gap;
    }
    if (steps.next !== 'time') return;
    const { place } = inputs;
    state[TICKS] = place[0] >= 0 ? place[0] : state[TICKS] + frames * place[1];
    // What ends a hair before a step's place by rounding is at it.
    const step = Math.floor(state[TICKS] / (steps.rateBeats * TICKS_PER_BEAT) + 1e-6);
    if (step !== state[STEP]) this.go(step);
  }
}

/** A row of values, one after the other with each note, each kick, or in time. */
export const steps = moverKind({
  shape,
  start: () => ({ values: [0.25, 0.5, 1, 0.75] }),
  run: (mover, start) => new StepsRunner(mover, start),
  struckByKick: ({ next }) => next === 'kick',
  runsFree: ({ order }) => order === 'any',
});
