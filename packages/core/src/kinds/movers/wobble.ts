import { Random, shapeAt } from '../../dsp/index.js';
import { MOST_NODES } from '../../schema/bounds.js';
import { choice, flag, list, number, object, type Infer } from '../../schema/schema.js';
import { log, movable } from '../../schema/shape-parts.js';
import { placesOf } from '../../schema/places.js';
import { since } from '../../schema/since.js';
import { nearestDivision } from '../../units/index.js';
import {
  BY_KICK,
  moverFields,
  moverKind,
  NO_RATE,
  PLAYED_RATE,
  PLAYED_TIE,
  type MoverContext,
  type MoverInputs,
  type MoverRunner,
  type MoverStart,
} from './mover-kind.js';

const nodeShape = object({
  x: number('Position', '', 0, 1, 0, 'Position in the cycle.', { step: 0.005 }),
  y: number('Value', '', 0, 1, 0, 'Value at this position.', { step: 0.005 }),
  bend: number('Bend', '', -1, 1, 0, 'Bend of the segment that follows; positive starts slowly.', {
    step: 0.01,
  }),
});

/** Up to here a wobble may be as fast as control steps carry it. */
const SLOW_HZ = 40;

const shape = object({
  ...moverFields('wobble', 'wobble-1', 'Wobble 1'),
  rateIn: choice(['beats', 'hertz'], 'beats'),
  rateBeats: number(
    'Rate',
    'beats',
    1 / 24,
    32,
    1,
    'Length of a cycle: 1/4 is one beat; T is a triplet, a dot is dotted.',
    { ...log, ...movable },
  ),
  rateHz: number('Rate', 'Hz', 0.02, 200, 4, 'Cycles per second.', { ...log, ...movable }),
  restart: choice(['note', 'kick', 'free'], 'note'),
  startDeg: number('Start phase', '°', 0, 360, 0, 'Where in the cycle it starts.', { ...movable, step: 1 }),
  smoothMs: number('Smooth', 'ms', 0, 200, 3, 'Rounds off sharp corners.', { step: 0.5 }),
  fadeMs: since(
    8,
    number('Fade in', 'ms', 0, 5000, 0, 'How long it takes to come in after a note begins.', {
      ...movable,
      step: 1,
    }),
  ),
  swingPct: since(
    8,
    number('Swing', '%', 50, 80, 50, 'How much of each pair of cycles the first one takes.', {
      ...movable,
      step: 0.5,
    }),
  ),
  amountPct: since(
    8,
    number('Amount', '%', 0, 100, 100, 'How much of it is passed on to what it moves.', {
      ...movable,
      step: 0.5,
    }),
  ),
  /** Whether a note that has a wobble rate of its own sets the rate. */
  byNote: since(8, flag(true)),
  /** Whether a rate in beats that is moved goes to the nearest note value. */
  keepsBeat: since(8, flag(true)),
  nodes: list(nodeShape, 2, MOST_NODES),
});
const NUMBER = placesOf(shape);

/** The shape of a wobble's cycle by itself, as it is kept in the library. */
export const cycleShape = object({ nodes: list(nodeShape, 2, MOST_NODES) });

export type Cycle = Infer<typeof cycleShape>;
export type ShapeNode = Infer<typeof nodeShape>;
type Wobble = Infer<typeof shape>;

const SHAPE_POINTS = 2048;
/** Shapes as tables, by their nodes: every layer runs the same wobble. */
const tables = new WeakMap<readonly ShapeNode[], Float64Array>();

function tableOf(nodes: readonly ShapeNode[]): Float64Array {
  let table = tables.get(nodes);
  if (!table)
    tables.set(
      nodes,
      (table = Float64Array.from({ length: SHAPE_POINTS }, (_, i) => shapeAt(nodes, i / SHAPE_POINTS))),
    );
  return table;
}

/** Cycles in a second of a wobble at a tempo. */
export function wobbleHz(wobble: Pick<Wobble, 'rateIn' | 'rateHz' | 'rateBeats'>, tempoBpm: number): number {
  return wobble.rateIn === 'hertz' ? wobble.rateHz : tempoBpm / 60 / wobble.rateBeats;
}

// Places in the state: phase in cycles, which cycle of a pair, the smoothed value, milliseconds since the note.
const PHASE = 0;
const SECOND = 1;
const VALUE = 2;
const SINCE_MS = 3;
/** Beats of the last note's own rate. */
const RATE = 4;

// Places in the numbers: cycles per millisecond in the first and in the second cycle of a pair, start, fade,
// amount; then for the rounding of corners: frames that it takes, frames of the last step, milliseconds of that
// step and what it leaves of a gap.
const SPEED = 0;
const START = 2;
const FADE_MS = 3;
const AMOUNT = 4;
const SMOOTH = 5;
const STEP_FRAMES = 6;
const STEP_MS = 7;
const LEFT = 8;

/** A wobble under way: its drawn shape as a table, a phase, and the rounding of its corners. */
class WobbleRunner implements MoverRunner<Wobble> {
  private shape: Float64Array;
  private readonly state = Float64Array.of(0, 0, 0, 1e9, NO_RATE);
  private readonly numbers = new Float64Array(9);
  private readonly inputs: MoverInputs;
  private readonly sampleRateHz: number;

  constructor(
    private wobble: Wobble,
    { sampleRateHz, seed, stream, inputs }: MoverStart,
    private context: MoverContext,
  ) {
    this.sampleRateHz = sampleRateHz;
    this.inputs = inputs;
    this.shape = tableOf(wobble.nodes);
    this.set(wobble, context);
    const { state } = this;
    const start = wobble.startDeg / 360;
    state[PHASE] = (wobble.restart === 'free' ? start + new Random(seed, stream).next() : start) % 1;
    state[VALUE] = this.read();
  }

  set(wobble: Wobble, context: MoverContext): void {
    this.wobble = wobble;
    this.context = context;
    this.shape = tableOf(wobble.nodes);
    this.numbers[SMOOTH] = (wobble.smoothMs / 1000) * this.sampleRateHz;
    this.numbers[STEP_FRAMES] = 0;
    // Where nothing rounds it off, another shape is there at once.
    if (this.numbers[SMOOTH] < 1) this.state[VALUE] = this.read();
  }

  /** Cycles per millisecond. */
  private speed(moved: Float64Array, at: number): number {
    const { state, wobble, context } = this;
    if (wobble.byNote && state[RATE] !== NO_RATE)
      return state[RATE] === 0 ? 0 : context.tempoBpm / 60000 / state[RATE];
    if (wobble.rateIn === 'hertz') return moved[at + NUMBER.rateHz] / 1000;
    const beats = moved[at + NUMBER.rateBeats];
    const gap = beats - wobble.rateBeats;
    const held = wobble.keepsBeat && (gap > 1e-9 || gap < -1e-9);
    return context.tempoBpm / 60000 / (held ? nearestDivision(beats) : beats);
  }

  tune(moved: Float64Array, at: number): void {
    const { numbers } = this;
    const speed = this.speed(moved, at);
    const share = moved[at + NUMBER.swingPct] / 100;
    numbers[SPEED] = (0.5 * speed) / share;
    numbers[SPEED + 1] = (0.5 * speed) / (1 - share);
    numbers[START] = (moved[at + NUMBER.startDeg] / 360) % 1;
    numbers[FADE_MS] = moved[at + NUMBER.fadeMs];
    numbers[AMOUNT] = moved[at + NUMBER.amountPct] / 100;
  }

  copyFrom(other: WobbleRunner): void {
    this.state.set(other.state);
    this.numbers.set(other.numbers);
  }

  private restart(): void {
    const { state, numbers } = this;
    state[PHASE] = numbers[START];
    state[SECOND] = 0;
  }

  noteOn(): void {
    const { state, inputs, wobble } = this;
    state[RATE] = inputs.note[PLAYED_RATE];
    if (inputs.note[PLAYED_TIE] === 1) return;
    state[SINCE_MS] = 0;
    if (wobble.restart === 'note') this.restart();
  }

  struck(by: number): void {
    if (by === BY_KICK && this.wobble.restart === 'kick') this.restart();
  }

  private read(): number {
    return this.shape[(this.state[PHASE] * SHAPE_POINTS) | 0];
  }

  tell(values: Float64Array, at: number): void {
    const { state, numbers } = this;
    const fade = state[SINCE_MS] < numbers[FADE_MS] ? state[SINCE_MS] / numbers[FADE_MS] : 1;
    values[at] = state[VALUE] * numbers[AMOUNT] * fade;
  }

  /** Moves the phase on by the time of a step. */
  private turn(): void {
    const { state, numbers } = this;
    const phase = state[PHASE] + numbers[STEP_MS] * numbers[SPEED + state[SECOND]];
    if (phase < 1) state[PHASE] = phase;
    else this.turnOver();
  }

  /** Moves the phase on over the ends of cycles; the two of a pair go at speeds of their own where it swings. */
  private turnOver(): void {
    const { state, numbers } = this;
    // Whole pairs change nothing: there may be many after a long wait.
    let rest = numbers[STEP_MS] % (1 / numbers[SPEED] + 1 / numbers[SPEED + 1]);
    for (;;) {
      const speed = numbers[SPEED + state[SECOND]];
      const phase = state[PHASE] + rest * speed;
      if (phase < 1) {
        state[PHASE] = phase;
        return;
      }
      rest = (phase - 1) / speed;
      state[PHASE] = 0;
      state[SECOND] = 1 - state[SECOND];
    }
  }

  step(frames: number, values: Float64Array, at: number): void {
    this.run(frames);
    this.tell(values, at);
  }

  private run(frames: number): void {
    const { state, numbers } = this;
    if (numbers[STEP_FRAMES] !== frames) {
      numbers[STEP_FRAMES] = frames;
      numbers[STEP_MS] = (frames * 1000) / this.sampleRateHz;
      numbers[LEFT] = numbers[SMOOTH] < 1 ? 0 : Math.exp((-3 * frames) / numbers[SMOOTH]);
    }
    state[SINCE_MS] += numbers[STEP_MS];
    this.turn();
    const value = this.read();
    state[VALUE] = value + (state[VALUE] - value) * numbers[LEFT];
  }
}

/** What no single node of a cycle can tell. */
export function checkCycle({ nodes }: Cycle, problem: (field: string, message: string) => void): void {
  if (nodes[0].x !== 0 || nodes[nodes.length - 1].x !== 1) problem('nodes', 'must run from x 0 to x 1');
  if (nodes.some((node, k) => k > 0 && node.x < nodes[k - 1].x)) problem('nodes', 'must rise in x');
}

/** A cycle drawn by hand that goes round at a rate. */
export const wobble = moverKind({
  shape,
  start: () => ({
    nodes: [
      { x: 0, y: 0, bend: 0 },
      { x: 0.5, y: 1, bend: 0 },
      { x: 1, y: 0, bend: 0 },
    ],
  }),
  check: checkCycle,
  run: (mover, start, context) => new WobbleRunner(mover, start, context),
  runsFree: ({ restart }) => restart === 'free',
  struckByKick: ({ restart }) => restart === 'kick',
  idle: ({ rateIn }) => [rateIn === 'beats' ? 'rateHz' : 'rateBeats'],
  // A drawn shape is taken to have eight harmonics that matter.
  fastestHz: ({ rateIn, rateHz }) => (rateIn === 'hertz' && rateHz > SLOW_HZ ? 8 * rateHz : 0),
});
