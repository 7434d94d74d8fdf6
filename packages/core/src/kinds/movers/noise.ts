import { ColouredNoise } from '../../dsp/index.js';
import { placesOf } from '../../schema/places.js';
import { choice, flag, number, object, type Infer } from '../../schema/schema.js';
import { log, movable } from '../../schema/shape-parts.js';
import { moverFields, moverKind, type MoverRunner, type MoverStart } from './mover-kind.js';

const shape = object({
  ...moverFields('noise', 'noise-1', 'Hiss'),
  colour: choice(['white', 'pink'], 'white'),
  smooth: flag(true),
  rateHz: number(
    'Rate',
    'Hz',
    0.1,
    20000,
    4,
    'New values in a second; from some hundred on it roughens the tone.',
    { ...log, ...movable },
  ),
});
const NUMBER = placesOf(shape);

type Noise = Infer<typeof shape>;

/** Values drawn at one go. */
const DRAWN = 64;
/** The rate at which the colour is made: a pink one falls over all of the values' own spectrum. */
const COLOUR_RATE_HZ = 48000;
/** Slope in dB per octave; the share of half the way up or down by which a value of the noise is taken. */
const SLOPE = { white: 0, pink: -3.01 } as const;
const SPREAD = { white: 1.15, pink: 0.65 } as const;

// Places in the state: how far it is from the value before to the next, those two, the place of the next in
// what was drawn, values in a millisecond.
const PHASE = 0;
const BEFORE = 1;
const NEXT = 2;
const AT = 3;
const SPEED = 4;

/** A run of values by chance, each held or gone to on a smooth way. */
class NoiseRunner implements MoverRunner<Noise> {
  private readonly state = Float64Array.of(0, 0.5, 0.5, DRAWN, 0);
  private readonly drawn = new Float64Array(DRAWN);
  private readonly slope = new Float64Array(1);
  private readonly noise: ColouredNoise;
  private readonly sampleRateHz: number;

  constructor(
    private mover: Noise,
    { sampleRateHz, seed, stream }: MoverStart,
  ) {
    this.sampleRateHz = sampleRateHz;
    this.noise = new ColouredNoise(seed, stream, COLOUR_RATE_HZ);
    this.draw();
    this.draw();
  }

  set(mover: Noise): void {
    this.mover = mover;
  }

  tune(moved: Float64Array, at: number): void {
    this.state[SPEED] = moved[at + NUMBER.rateHz] / 1000;
  }

  copyFrom(other: NoiseRunner): void {
    this.state.set(other.state);
    this.drawn.set(other.drawn);
    this.noise.copyFrom(other.noise);
  }

  private draw(): void {
    const { state, drawn, slope, mover } = this;
    if (state[AT] >= DRAWN) {
      slope[0] = SLOPE[mover.colour];
      this.noise.write(drawn, 0, DRAWN, slope, 0);
      state[AT] = 0;
    }
    state[BEFORE] = state[NEXT];
    const value = 0.5 + SPREAD[mover.colour] * drawn[state[AT]++];
    state[NEXT] = value < 0 ? 0 : value > 1 ? 1 : value;
  }

  step(frames: number, values: Float64Array, at: number): void {
    this.run(frames);
    this.tell(values, at);
  }

  private run(frames: number): void {
    const { state } = this;
    const phase = state[PHASE] + (state[SPEED] * frames * 1000) / this.sampleRateHz;
    const values = Math.floor(phase);
    state[PHASE] = phase - values;
    // Of many values in one step the last two are all that is left to be told.
    for (let i = values < 2 ? values : 2; i > 0; i--) this.draw();
  }

  tell(values: Float64Array, at: number): void {
    const { state } = this;
    const t = state[PHASE];
    values[at] = this.mover.smooth
      ? state[BEFORE] + (state[NEXT] - state[BEFORE]) * t * t * (3 - 2 * t)
      : state[NEXT];
  }
}

/** Chance, slow or up to the audible. */
export const noise = moverKind({
  shape,
  run: (mover, start) => new NoiseRunner(mover, start),
  runsFree: () => true,
  fastestHz: ({ rateHz }) => rateHz,
});
