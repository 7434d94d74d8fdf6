import {
  BLOCK,
  FourTimes,
  MIX_AFTER,
  MIX_GAIN,
  MIX_WET,
  MixedCurve,
  PartDelay,
  SoftCurve,
} from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { object, type Infer } from '../../../schema/schema.js';
import { dbToGain } from '../../../units/index.js';
import { FILTER, filterKindOf, filterMagnitude, filterShape, LayerFilter } from '../../filters/index.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

/** The note from which the cutoff follows the keys, in hertz: F1. */
const FOLLOW_FROM_HZ = 43.654;

const { mode, form, slope, cutoffHz, resonancePct, widthOct, vowelPct, driveDb, followPct } =
  filterShape.fields;
const shape = object({
  ...unitFields('filter'),
  mode,
  form,
  slope,
  cutoffHz,
  resonancePct,
  widthOct,
  vowelPct,
  driveDb,
  followPct,
});
const NUMBER = placesOf(shape);

type FilterUnit = Infer<typeof shape>;

/** One side: a soft clip in front that comes in within the first dB of drive, then the filter; always in step. */
class Side {
  readonly lateFrames: number;
  private readonly filter: LayerFilter;
  private readonly mix = new MixedCurve(new SoftCurve(), 4 * BLOCK);
  private readonly drive = new FourTimes(this.mix, BLOCK);
  private readonly rest: PartDelay | null;

  constructor(unit: FilterUnit, sampleRateHz: number) {
    this.filter = new LayerFilter(unit, sampleRateHz);
    const late = filterKindOf(unit.mode).lateFrames;
    this.rest = late > 0 ? new PartDelay(late) : null;
    this.lateFrames = this.drive.lateFrames + (this.rest?.lateFrames ?? 0);
  }

  copyFrom(other: Side): void {
    this.filter.copyFrom(other.filter);
    this.drive.copyFrom(other.drive);
    this.mix.copyFrom(other.mix);
    if (other.rest) this.rest?.copyFrom(other.rest);
  }

  process(
    samples: Float64Array,
    from: number,
    to: number,
    drives: Float64Array,
    hz: Float64Array,
    values: Float64Array,
  ): void {
    const { form: told } = this.mix;
    let gain = drives[0];
    const step = (drives[1] - gain) / (to - from);
    for (let i = from; i < to; i++) {
      gain += step;
      samples[i] *= gain;
    }
    told[MIX_WET] = drives[2];
    told[MIX_GAIN] = drives[1];
    told[MIX_AFTER] = 1 / Math.sqrt(drives[1]);
    this.drive.process(samples, from, to);
    this.filter.process(samples, from, to, hz, values, 0);
    this.rest?.process(samples, from, to);
  }
}

class FilterRunner implements UnitRunner<FilterUnit> {
  readonly lateFrames: number;
  private readonly left: Side;
  private readonly right: Side;
  private readonly hz = new Float64Array(1);
  /** Gain into the drive at the start and the end of the step, and how far it has come in. */
  private readonly drives = Float64Array.of(1, 1, 0);
  /** The filter's numbers; drive and level are the unit's own affair. */
  private readonly values = new Float64Array(Object.keys(FILTER).length);
  private begun = false;

  constructor(
    private unit: FilterUnit,
    private readonly start: UnitStart,
  ) {
    this.left = new Side(unit, start.sampleRateHz);
    this.right = start.stereo ? new Side(unit, start.sampleRateHz) : this.left;
    this.lateFrames = this.left.lateFrames;
  }

  set(unit: FilterUnit): void {
    this.unit = unit;
  }

  copyFrom(other: FilterRunner): void {
    this.left.copyFrom(other.left);
    if (this.right !== this.left) this.right.copyFrom(other.right);
    this.drives.set(other.drives);
    this.begun = other.begun;
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { values, hz, drives, unit } = this;
    values[FILTER.cutoffHz] = numbers[at + NUMBER.cutoffHz];
    values[FILTER.resonancePct] = numbers[at + NUMBER.resonancePct];
    values[FILTER.widthOct] = numbers[at + NUMBER.widthOct];
    values[FILTER.vowelPct] = numbers[at + NUMBER.vowelPct];
    const driven = numbers[at + NUMBER.driveDb];
    const gain = dbToGain(driven);
    drives[0] = this.begun ? drives[1] : gain;
    drives[1] = gain;
    drives[2] = driven < 1 ? driven : 1;
    this.begun = true;
    const played = this.start.hears.hz[0];
    const cutoff =
      unit.followPct === 0 || played <= 0
        ? values[FILTER.cutoffHz]
        : values[FILTER.cutoffHz] * (played / FOLLOW_FROM_HZ) ** (unit.followPct / 100);
    hz[0] = cutoff < 20 ? 20 : cutoff > 20000 ? 20000 : cutoff;
    this.left.process(left, from, to, drives, hz, values);
    if (this.right !== this.left) this.right.process(right, from, to, drives, hz, values);
  }
}

const lates = new Map<FilterUnit['mode'], number>();

/** Frames by which a filter of a mode comes late: found when it is first asked for. */
function lateOf(unit: FilterUnit): number {
  let late = lates.get(unit.mode);
  if (late === undefined) lates.set(unit.mode, (late = new Side(unit, 48000).lateFrames));
  return late;
}

/** The filters of layers, behind a distortion: the same code, the same modes. */
export const filter = unitKind({
  shape,
  family: 'filter',
  label: 'Filter',
  purpose: 'Any filter of the layers, here behind the distortion: wobble what is rough.',
  run: (unit, start) => new FilterRunner(unit, start),
  lateFrames: lateOf,
  chance: {
    stage: 'colour',
    weight: 2,
    within: { cutoffHz: [500, 6000], resonancePct: [0, 60], driveDb: [0, 9] },
  },
  idle: ({ mode: form }) => (form === 'vowel' ? [] : ['vowelPct']),
  response: (unit, noteHz) => {
    const played = unit.cutoffHz * (noteHz / FOLLOW_FROM_HZ) ** (unit.followPct / 100);
    const standing = { ...unit, driveDb: 0, levelDb: 0, cutoffHz: Math.min(20000, Math.max(20, played)) };
    return (hz) => 20 * Math.log10(Math.max(1e-6, filterMagnitude(standing, hz, 48000) ?? 1));
  },
});
