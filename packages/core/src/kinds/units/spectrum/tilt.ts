import { prewarp, Tilt, tiltDb } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { dbToGain } from '../../../units/index.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

const shape = object({
  ...unitFields('tilt'),
  tiltDb: number(
    'Tilt',
    'dB',
    -24,
    24,
    3,
    'Highs up and lows down by half of this each; below 0 the other way.',
    {
      ...movable,
      step: 0.1,
    },
  ),
  pivotHz: number('About', 'Hz', 40, 8000, 600, 'What stays as it is.', { ...log, ...movable }),
});
const NUMBER = placesOf(shape);

type TiltUnit = Infer<typeof shape>;

class TiltRunner implements UnitRunner<TiltUnit> {
  readonly lateFrames = 0;
  private readonly sides: readonly [Tilt, Tilt] = [new Tilt(), new Tilt()];
  private readonly form = new Float64Array(2);

  constructor(
    _unit: TiltUnit,
    private readonly start: UnitStart,
  ) {}

  copyFrom(other: TiltRunner): void {
    this.sides.forEach((side, s) => {
      side.copyFrom(other.sides[s]);
    });
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { form, sides } = this;
    form[0] = prewarp(numbers[at + NUMBER.pivotHz], this.start.sampleRateHz);
    form[1] = dbToGain(numbers[at + NUMBER.tiltDb] / 2);
    sides[0].process(left, from, to, form);
    if (right !== left) sides[1].process(right, from, to, form);
  }
}

/** Highs against lows. */
export const tilt = unitKind({
  shape,
  family: 'spectrum',
  label: 'Tilt',
  purpose: 'Leans the whole sound towards its highs or its lows.',
  run: (unit, start) => new TiltRunner(unit, start),
  chance: { stage: 'colour', weight: 2, within: { tiltDb: [-6, 9], pivotHz: [300, 2000] } },
  response: (unit) => (hz) => tiltDb(dbToGain(unit.tiltDb / 2), unit.pivotHz, hz),
});
