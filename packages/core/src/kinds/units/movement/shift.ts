import { BLOCK, Hilbert } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { movable } from '../../../schema/shape-parts.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

const shape = object({
  ...unitFields('shift'),
  shiftHz: number('Shift', 'Hz', -2000, 2000, 20, 'Every partial moves by this; below 0 downward.', {
    ...movable,
    step: 0.1,
  }),
});
const NUMBER = placesOf(shape);

type Shift = Infer<typeof shape>;

/**
 * A single sideband: the sound and its quarter turn (`Hilbert`) times a cosine and a sine, whose difference keeps one
 * of the two sidebands (textbook; Wardle, A Hilbert-transformer frequency shifter for audio, 1998).
 */
class ShiftRunner implements UnitRunner<Shift> {
  readonly lateFrames = 0;
  private readonly hilberts: readonly [Hilbert, Hilbert];
  private readonly quarter = new Float64Array(BLOCK);
  private readonly cosines = new Float64Array(BLOCK);
  private readonly sines = new Float64Array(BLOCK);
  /** Phase in turns, and the shift at the end of the last step. */
  private readonly state = Float64Array.of(0, NaN);
  private readonly rate: number;

  constructor(_unit: Shift, { sampleRateHz }: UnitStart) {
    this.rate = sampleRateHz;
    this.hilberts = [new Hilbert(sampleRateHz), new Hilbert(sampleRateHz)];
  }

  copyFrom(other: ShiftRunner): void {
    this.hilberts.forEach((hilbert, s) => {
      hilbert.copyFrom(other.hilberts[s]);
    });
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
    const { state, cosines, sines, quarter, hilberts, rate } = this;
    const wanted = numbers[at + NUMBER.shiftHz];
    let hz = state[1] === state[1] ? state[1] : wanted;
    const step = (wanted - hz) / (to - from);
    let phase = state[0];
    for (let i = from; i < to; i++) {
      hz += step;
      phase += hz / rate;
      phase -= Math.floor(phase);
      cosines[i] = Math.cos(2 * Math.PI * phase);
      sines[i] = Math.sin(2 * Math.PI * phase);
    }
    state[0] = phase;
    state[1] = wanted;
    for (let s = 0; s < (right === left ? 1 : 2); s++) {
      const samples = s === 0 ? left : right;
      hilberts[s].process(samples, quarter, from, to);
      for (let i = from; i < to; i++) samples[i] = samples[i] * cosines[i] - quarter[i] * sines[i];
    }
  }
}

/** Every partial by as many hertz. */
export const shift = unitKind({
  shape,
  family: 'movement',
  label: 'Shift',
  purpose: 'Moves every partial by the same number of hertz: clangs, and beats when it is small.',
  run: (unit, start) => new ShiftRunner(unit, start),
});
