import { EqualiserSection, sectionDb } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { choice, number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

/** The note from which the cutoff follows the keys, in hertz: F1. */
const FOLLOW_FROM_HZ = 43.654;

const shape = object({
  ...unitFields('declick'),
  cutoffHz: number(
    'Cutoff',
    'Hz',
    30,
    2000,
    110,
    'Above this it falls; for F1, and from there with the keys.',
    {
      ...log,
      ...movable,
    },
  ),
  followPct: number('Key tracking', '%', 0, 100, 100, 'How far the cutoff follows the note.', {
    ...movable,
    step: 1,
  }),
  slope: choice(['24', '36', '48'], '48'),
});
const NUMBER = placesOf(shape);

type Declick = Infer<typeof shape>;

const SLOPES = { 24: 24, 36: 36, 48: 48 } as const;
/** Time in which the cutoff comes to a new note. */
const GLIDE_S = 0.008;

/** A steep Butterworth low-pass that follows the keys: what clicks lies above it, the note below. */
class DeclickRunner implements UnitRunner<Declick> {
  readonly lateFrames = 0;
  private readonly sides: readonly [EqualiserSection, EqualiserSection];
  private readonly form = new Float64Array(4);
  /** The cutoff now, as a logarithm; not a number before the first step. */
  private readonly cutoff = Float64Array.of(NaN);

  constructor(
    private unit: Declick,
    private readonly start: UnitStart,
  ) {
    const { sampleRateHz } = start;
    this.sides = [
      new EqualiserSection('high cut', sampleRateHz),
      new EqualiserSection('high cut', sampleRateHz),
    ];
  }

  set(unit: Declick): void {
    this.unit = unit;
  }

  copyFrom(other: DeclickRunner): void {
    this.sides.forEach((side, s) => {
      side.copyFrom(other.sides[s]);
    });
    this.cutoff.set(other.cutoff);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { form, sides, start, cutoff } = this;
    const played = start.hears.hz[0];
    const follow = played > 0 ? numbers[at + NUMBER.followPct] / 100 : 0;
    const wanted =
      Math.log(numbers[at + NUMBER.cutoffHz]) + (follow > 0 ? follow * Math.log(played / FOLLOW_FROM_HZ) : 0);
    const share = 1 - Math.exp(-(to - from) / (GLIDE_S * start.sampleRateHz));
    cutoff[0] = cutoff[0] === cutoff[0] ? cutoff[0] + share * (wanted - cutoff[0]) : wanted;
    form[0] = Math.exp(cutoff[0]);
    form[2] = 1;
    form[3] = SLOPES[this.unit.slope];
    sides[0].set(form);
    sides[0].process(left, from, to);
    if (right === left) return;
    sides[1].set(form);
    sides[1].process(right, from, to);
  }
}

/** Takes the clicks of a bare sub. */
export const declick = unitKind({
  shape,
  family: 'spectrum',
  label: 'Declick',
  purpose: 'A steep low-pass that follows the note: takes the clicks of a bare sub.',
  run: (unit, start) => new DeclickRunner(unit, start),
  response: (unit, noteHz) => {
    const at = unit.cutoffHz * (noteHz / FOLLOW_FROM_HZ) ** (unit.followPct / 100);
    const setting = { kind: 'high cut', hz: at, gainDb: 0, q: 1, slopeDb: SLOPES[unit.slope] } as const;
    return (hz) => sectionDb(setting, hz, 48000);
  },
});
