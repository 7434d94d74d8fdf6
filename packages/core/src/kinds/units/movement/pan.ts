import { AboveOnly } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { movable } from '../../../schema/shape-parts.js';
import {
  aboveField,
  LEAST_ABOVE_HZ,
  unitFields,
  unitKind,
  type UnitRunner,
  type UnitStart,
} from '../kind/unit-kind.js';

const shape = object({
  ...unitFields('pan'),
  panPct: number('Pan', '%', -100, 100, 0, 'Left (negative) or right (positive).', { ...movable, step: 1 }),
  aboveHz: aboveField(),
});
const NUMBER = placesOf(shape);

type Pan = Infer<typeof shape>;

/** The sides by sine and cosine, so that the power stays; the lows are left in the middle. */
class PanRunner implements UnitRunner<Pan> {
  readonly lateFrames = 0;
  private readonly above: AboveOnly;
  /** Gains of left and right at the end of the last step. */
  private readonly gains = Float64Array.of(NaN, NaN);

  constructor(_unit: Pan, { sampleRateHz }: UnitStart) {
    this.above = new AboveOnly(sampleRateHz);
  }

  copyFrom(other: PanRunner): void {
    this.above.copyFrom(other.above);
    this.gains.set(other.gains);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { gains, above } = this;
    const angle = (Math.PI / 4) * (1 + numbers[at + NUMBER.panPct] / 100);
    const l = Math.SQRT2 * Math.cos(angle);
    const r = Math.SQRT2 * Math.sin(angle);
    let a = gains[0] === gains[0] ? gains[0] : l;
    let b = gains[1] === gains[1] ? gains[1] : r;
    const stepA = (l - a) / (to - from);
    const stepB = (r - b) / (to - from);
    const bound = numbers[at + NUMBER.aboveHz] > LEAST_ABOVE_HZ;
    if (bound) above.keep(left, right, from, to);
    for (let i = from; i < to; i++) {
      a += stepA;
      b += stepB;
      left[i] *= a;
      right[i] *= b;
    }
    gains[0] = l;
    gains[1] = r;
    if (bound) above.restore(left, right, from, to, numbers, at + NUMBER.aboveHz);
  }
}

/** From side to side. */
export const pan = unitKind({
  shape,
  family: 'movement',
  label: 'Pan',
  purpose: 'Moves the sound from side to side, by hand or by a mover; the lows stay in the middle.',
  run: (unit, start) => new PanRunner(unit, start),
  widens: () => true,
});
