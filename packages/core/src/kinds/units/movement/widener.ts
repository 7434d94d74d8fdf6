import { AboveOnly, BLOCK } from '../../../dsp/index.js';
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
  ...unitFields('widener'),
  widthPct: number('Width', '%', 0, 200, 130, 'How wide what is wide already gets; 100 % leaves it.', {
    ...movable,
    step: 1,
  }),
  apartPct: number(
    'Apart',
    '%',
    0,
    100,
    40,
    'How much of the middle is spread to the sides; mono stays as it is.',
    {
      ...movable,
      step: 1,
    },
  ),
  aboveHz: aboveField(),
});
const NUMBER = placesOf(shape);

type Widener = Infer<typeof shape>;

/** Delays of the allpasses that spread the middle, in seconds, and their share. */
const ALLPASS_S = [0.0041, 0.0067, 0.0093] as const;
const SHARE = 0.6;

/** Schroeder's allpasses in a row (Natural sounding artificial reverberation, 1962). */
class Spread {
  private readonly rings: readonly Float64Array[];
  private readonly at: Int32Array;

  constructor(sampleRateHz: number) {
    this.rings = ALLPASS_S.map((seconds) => new Float64Array(Math.round(seconds * sampleRateHz)));
    this.at = new Int32Array(ALLPASS_S.length);
  }

  copyFrom(other: Spread): void {
    this.rings.forEach((ring, r) => {
      ring.set(other.rings[r]);
    });
    this.at.set(other.at);
  }

  process(samples: Float64Array, from: number, to: number): void {
    const { rings, at } = this;
    for (let r = 0; r < rings.length; r++) {
      const ring = rings[r];
      let place = at[r];
      for (let i = from; i < to; i++) {
        const late = ring[place];
        const v = samples[i] - SHARE * late;
        ring[place] = v < 1e-18 && v > -1e-18 ? 0 : v;
        samples[i] = late + SHARE * v;
        place = place + 1 === ring.length ? 0 : place + 1;
      }
      at[r] = place;
    }
  }
}

/**
 * The side louder or softer, and a spread copy of the middle added to it: what is added to one side is taken from the
 * other, so that the sum of both stays as it was.
 */
class WidenerRunner implements UnitRunner<Widener> {
  readonly lateFrames = 0;
  private readonly spread: Spread;
  private readonly above: AboveOnly;
  private readonly middle = new Float64Array(BLOCK);
  /** Width and share of the spread at the end of the last step. */
  private readonly last = Float64Array.of(NaN, NaN);

  constructor(_unit: Widener, { sampleRateHz }: UnitStart) {
    this.spread = new Spread(sampleRateHz);
    this.above = new AboveOnly(sampleRateHz);
  }

  copyFrom(other: WidenerRunner): void {
    this.spread.copyFrom(other.spread);
    this.above.copyFrom(other.above);
    this.last.set(other.last);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { spread, above, middle, last } = this;
    const width = numbers[at + NUMBER.widthPct] / 100;
    const apart = numbers[at + NUMBER.apartPct] / 100;
    let w = last[0] === last[0] ? last[0] : width;
    let a = last[1] === last[1] ? last[1] : apart;
    const stepW = (width - w) / (to - from);
    const stepA = (apart - a) / (to - from);
    const bound = numbers[at + NUMBER.aboveHz] > LEAST_ABOVE_HZ;
    if (bound) above.keep(left, right, from, to);
    for (let i = from; i < to; i++) middle[i] = 0.5 * (left[i] + right[i]);
    spread.process(middle, from, to);
    for (let i = from; i < to; i++) {
      w += stepW;
      a += stepA;
      const mid = 0.5 * (left[i] + right[i]);
      const side = w * 0.5 * (left[i] - right[i]) + a * middle[i];
      left[i] = mid + side;
      right[i] = mid - side;
    }
    last[0] = width;
    last[1] = apart;
    if (bound) above.restore(left, right, from, to, numbers, at + NUMBER.aboveHz);
  }
}

/** Wider, the lows left alone. */
export const widener = unitKind({
  shape,
  family: 'movement',
  label: 'Widener',
  purpose: 'Makes it wider above a frequency; in mono it stays as it was.',
  run: (unit, start) => new WidenerRunner(unit, start),
  chance: { stage: 'move', weight: 1, within: { apartPct: [20, 60] } },
  widens: () => true,
  waitsS: () => 0.03,
});
