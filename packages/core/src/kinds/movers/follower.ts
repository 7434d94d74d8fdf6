import { placesOf } from '../../schema/places.js';
import { flag, number, object, text, type Infer } from '../../schema/schema.js';
import { ID } from '../../schema/shape-parts.js';
import { dbToGain } from '../../units/index.js';
import {
  BY_NOTE,
  moverFields,
  moverKind,
  starterOf,
  type MoverContext,
  type MoverInputs,
  type MoverRunner,
  type MoverStart,
} from './mover-kind.js';

const time = { scale: 'log', movable: true } as const;
const level = { movable: true, step: 0.5 } as const;

const shape = object({
  ...moverFields('follower', 'follower-1', 'Kick follower'),
  /** What it follows: `kick`, the id of a backing part, or `self`, the layer's own level before its chain. */
  of: text(40, 'kick', ID),
  attackMs: number('Attack', 'ms', 0.1, 500, 5, 'How fast it rises: 63 % of the way in this time.', time),
  releaseMs: number('Release', 'ms', 1, 3000, 120, 'How fast it falls: 63 % of the way in this time.', time),
  gainDb: number('Gain', 'dB', -24, 36, 0, 'Raises the level it follows; 0 dB is all the way up.', level),
  floorDb: number('Floor', 'dB', -72, -6, -36, 'At and below this level it stands all the way down.', level),
  gate: flag(false),
  thresholdDb: number('Threshold', 'dB', -60, 0, -24, 'As a gate it opens above this level.', level),
});
const NUMBER = placesOf(shape);

type Follower = Infer<typeof shape>;

/** Decibels of a natural logarithm: quicker than one to the base of ten, at every control step. */
const DB = 20 / Math.LN10;

// Places in the state: the level, linear, and the gate.
const LEVEL = 0;
const GATE = 1;
// Places in the numbers: attack and release in ms, gain and floor and threshold in dB; then the frames of the
// last step and what it leaves of a gap on the way up and down.
const ATTACK = 0;
const RELEASE = 1;
const GAIN = 2;
const FLOOR = 3;
const THRESHOLD = 4;
const FRAMES = 5;
const UP = 6;
const DOWN = 7;
/** The level of the floor, linear: nothing is computed below it. */
const SOFTEST = 8;

/**
 * Follows a level by a smooth, branching peak detector with time constants of its own for rise and fall, y[n]
 * = α·y[n−1] + (1 − α)·x[n] with α = e^(−1/(τ·f)): Giannoulis, Massberg and Reiss, Digital dynamic range
 * compressor design, J. AES 60 (2012), eq. 17. Its value is that level in dB, from the floor (0) to 0 dB (1).
 */
class FollowerRunner implements MoverRunner<Follower> {
  private readonly state = new Float64Array(2);
  private readonly numbers = new Float64Array(9);
  private readonly inputs: MoverInputs;
  private readonly sampleRateHz: number;
  private of = BY_NOTE;

  constructor(
    private mover: Follower,
    { sampleRateHz, inputs }: MoverStart,
    context: MoverContext,
  ) {
    this.inputs = inputs;
    this.sampleRateHz = sampleRateHz;
    this.set(mover, context);
  }

  set(mover: Follower, context: MoverContext): void {
    this.mover = mover;
    this.of = starterOf(context.parts, mover.of);
  }

  tune(moved: Float64Array, at: number): void {
    const { numbers } = this;
    numbers[ATTACK] = moved[at + NUMBER.attackMs];
    numbers[RELEASE] = moved[at + NUMBER.releaseMs];
    numbers[GAIN] = moved[at + NUMBER.gainDb];
    numbers[FLOOR] = moved[at + NUMBER.floorDb];
    numbers[THRESHOLD] = moved[at + NUMBER.thresholdDb];
    numbers[FRAMES] = 0;
    numbers[SOFTEST] = dbToGain(numbers[FLOOR] - numbers[GAIN]);
  }

  copyFrom(other: FollowerRunner): void {
    this.state.set(other.state);
  }

  private timeFor(frames: number): void {
    const { numbers } = this;
    const ms = (1000 * frames) / this.sampleRateHz;
    numbers[FRAMES] = frames;
    numbers[UP] = Math.exp(-ms / numbers[ATTACK]);
    numbers[DOWN] = Math.exp(-ms / numbers[RELEASE]);
  }

  step(frames: number, values: Float64Array, at: number): void {
    this.run(frames);
    this.tell(values, at);
  }

  private run(frames: number): void {
    const { state, numbers, inputs, mover } = this;
    if (numbers[FRAMES] !== frames) this.timeFor(frames);
    const level = inputs.levels[this.of];
    state[LEVEL] = level + (state[LEVEL] - level) * (level > state[LEVEL] ? numbers[UP] : numbers[DOWN]);
    if (!mover.gate) return;
    const to = DB * Math.log(level + 1e-9) + numbers[GAIN] > numbers[THRESHOLD] ? 1 : 0;
    state[GATE] = to + (state[GATE] - to) * (to > state[GATE] ? numbers[UP] : numbers[DOWN]);
  }

  tell(values: Float64Array, at: number): void {
    const { state, numbers } = this;
    if (this.mover.gate) {
      values[at] = state[GATE];
      return;
    }
    if (state[LEVEL] <= numbers[SOFTEST]) {
      values[at] = 0;
      return;
    }
    const share = 1 - (DB * Math.log(state[LEVEL] + 1e-9) + numbers[GAIN]) / numbers[FLOOR];
    values[at] = share < 0 ? 0 : share > 1 ? 1 : share;
  }
}

/** Follows how loud the kick, a backing part or the bass itself is. */
export const follower = moverKind({
  shape,
  run: (mover, start, context) => new FollowerRunner(mover, start, context),
  idle: ({ gate }) => (gate ? ['floorDb'] : ['thresholdDb']),
  hearsSelf: ({ of }) => of === 'self',
  hearsIn: 'of',
  hears: ({ of }) => (of === 'self' ? null : of),
});
