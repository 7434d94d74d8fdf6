import { BLOCK, Crossover, Hilbert, prewarp } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { dbToGain } from '../../../units/index.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

/** A harmonic of this level is off. */
const NONE_DB = -60;
const NAMES = ['Second', 'Third', 'Fourth', 'Fifth', 'Sixth'] as const;

const level = (n: number, def: number) =>
  number(
    NAMES[n],
    'dB',
    NONE_DB,
    6,
    def,
    `Level of the ${NAMES[n].toLowerCase()} harmonic against the lows.`,
    {
      ...movable,
      step: 0.5,
    },
  );

const shape = object({
  ...unitFields('harmonics'),
  belowHz: number(
    'Of the lows below',
    'Hz',
    40,
    400,
    130,
    'The harmonics are those of what lies below this.',
    {
      ...log,
      ...movable,
    },
  ),
  secondDb: level(0, -18),
  thirdDb: level(1, -24),
  fourthDb: level(2, NONE_DB),
  fifthDb: level(3, NONE_DB),
  sixthDb: level(4, NONE_DB),
});
const NUMBER = placesOf(shape);

type Harmonics = Infer<typeof shape>;

/** Levels below this are silence. */
const SILENCE = 1e-6;

/** One side: its lows, and where they stand in their cycle. */
class Side {
  private readonly crossover = new Crossover();
  private readonly hilbert: Hilbert;
  private readonly lows = new Float64Array(BLOCK);
  private readonly quarter = new Float64Array(BLOCK);
  private readonly rest = new Float64Array(BLOCK);

  constructor(sampleRateHz: number) {
    this.hilbert = new Hilbert(sampleRateHz);
  }

  copyFrom(other: Side): void {
    this.crossover.copyFrom(other.crossover);
    this.hilbert.copyFrom(other.hilbert);
  }

  /** `levels` holds those of the second to the sixth at the start of the step, then at its end. */
  process(samples: Float64Array, from: number, to: number, warped: Float64Array, levels: Float64Array): void {
    const { lows, quarter, rest } = this;
    for (let i = from; i < to; i++) rest[i] = samples[i];
    this.crossover.process(rest, lows, from, to, warped);
    this.hilbert.process(lows, quarter, from, to);
    const step = 1 / (to - from);
    for (let i = from; i < to; i++) {
      const t = (i - from + 1) * step;
      const size = Math.sqrt(lows[i] * lows[i] + quarter[i] * quarter[i]);
      const x = lows[i] / (size + SILENCE);
      // Chebyshev's polynomials, one from the two before: Tₙ₊₁ = 2x·Tₙ − Tₙ₋₁, Tₙ(cos θ) = cos nθ.
      let before = 1;
      let now = x;
      let sum = 0;
      for (let n = 0; n < 5; n++) {
        const next = 2 * x * now - before;
        before = now;
        now = next;
        sum += (levels[n] + t * (levels[5 + n] - levels[n])) * now;
      }
      samples[i] += size * sum;
    }
  }
}

/**
 * Adds the second to the sixth harmonic of a band's lows at set levels, whatever the level of the lows: they are
 * levelled by their own magnitude (with their quarter turn, `Hilbert`), go through Chebyshev's polynomials (as in Le
 * Brun, Digital waveshaping synthesis, 1979), and take their magnitude up again.
 */
class HarmonicsRunner implements UnitRunner<Harmonics> {
  readonly lateFrames = 0;
  private readonly left: Side;
  private readonly right: Side;
  private readonly warped = Float64Array.of(NaN, NaN);
  private readonly levels = new Float64Array(10).fill(NaN);

  constructor(
    _unit: Harmonics,
    private readonly start: UnitStart,
  ) {
    this.left = new Side(start.sampleRateHz);
    this.right = start.stereo ? new Side(start.sampleRateHz) : this.left;
  }

  copyFrom(other: HarmonicsRunner): void {
    this.left.copyFrom(other.left);
    if (this.right !== this.left) this.right.copyFrom(other.right);
    this.warped.set(other.warped);
    this.levels.set(other.levels);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { warped, levels } = this;
    const g = prewarp(numbers[at + NUMBER.belowHz], this.start.sampleRateHz);
    warped[0] = warped[1] === warped[1] ? warped[1] : g;
    warped[1] = g;
    for (let n = 0; n < 5; n++) {
      const db = numbers[at + NUMBER.secondDb + n];
      const gain = db <= NONE_DB ? 0 : dbToGain(db);
      levels[n] = levels[5 + n] === levels[5 + n] ? levels[5 + n] : gain;
      levels[5 + n] = gain;
    }
    this.left.process(left, from, to, warped, levels);
    if (this.right !== this.left) this.right.process(right, from, to, warped, levels);
  }
}

/** Harmonics of the lows at set levels. */
export const harmonics = unitKind({
  shape,
  family: 'spectrum',
  label: 'Harmonics',
  purpose:
    'Adds the second to the sixth harmonic of the lows, at levels of your own: a sub that small speakers imply.',
  run: (unit, start) => new HarmonicsRunner(unit, start),
});
