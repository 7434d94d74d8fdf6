import {
  BETWEEN_REACH,
  BLOCK,
  Ceiling,
  ceilingDelay,
  DelayLine,
  TruePeakFollower,
} from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { rebuilds } from '../../../schema/rebuild.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { dbToGain } from '../../../units/index.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

const shape = object({
  ...unitFields('limiter'),
  driveDb: number('Drive', 'dB', -12, 36, 0, 'Pushes the signal against the ceiling.', {
    ...movable,
    step: 0.1,
  }),
  ceilingDb: number('Ceiling', 'dB', -24, 0, -1, 'No true peak behind it stands above this.', {
    ...movable,
    step: 0.1,
  }),
  lookAheadMs: rebuilds(
    'instrument',
    number('Look-ahead', 'ms', 0.5, 10, 1, 'How far it sees a peak coming; the sound waits for as long.', {
      step: 0.1,
    }),
  ),
  releaseMs: number('Release', 'ms', 5, 2000, 60, 'How fast it comes back.', { ...log, ...movable }),
});
const NUMBER = placesOf(shape);

type Limiter = Infer<typeof shape>;

/** What a gain that moves may add between two samples: the ceiling is set so much lower. */
const SAFETY_DB = 0.12;

/**
 * A look-ahead limiter by the true peak; see `Ceiling` and `TruePeakFollower` for what it is made of. Both sides
 * are lowered alike.
 */
class LimiterRunner implements UnitRunner<Limiter> {
  readonly lateFrames: number;
  private readonly ceiling: Ceiling;
  private readonly followers: readonly TruePeakFollower[];
  private readonly waits: readonly DelayLine[];
  private readonly none = new Float64Array(BLOCK);
  private readonly block = new Float64Array(BLOCK);
  private readonly peaks = new Float64Array(BLOCK);
  private readonly gains = new Float64Array(BLOCK);
  /** The ceiling, and the greatest true peak of the step. */
  private readonly levels = new Float64Array(2);
  /** Drive at the end of the last step; not a number before the first. */
  private readonly last = Float64Array.of(NaN);

  constructor(unit: Limiter, { sampleRateHz, stereo }: UnitStart) {
    this.ceiling = new Ceiling(sampleRateHz, unit.lookAheadMs / 1000);
    this.lateFrames = this.ceiling.delayFrames + BETWEEN_REACH;
    const sides = stereo ? 2 : 1;
    this.followers = Array.from({ length: sides }, () => new TruePeakFollower(BLOCK));
    this.waits = Array.from({ length: sides }, () => new DelayLine(this.lateFrames));
  }

  copyFrom(other: LimiterRunner): void {
    this.followers.forEach((follower, s) => {
      if (s < other.followers.length) follower.copyFrom(other.followers[s]);
    });
    this.last.set(other.last);
    if (other.lateFrames !== this.lateFrames) return;
    this.ceiling.copyFrom(other.ceiling);
    this.waits.forEach((wait, s) => {
      if (s < other.waits.length) wait.copyFrom(other.waits[s]);
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
    const { ceiling, followers, waits, block, none, peaks, gains, levels, last } = this;
    const drive = dbToGain(numbers[at + NUMBER.driveDb]);
    const first = last[0] === last[0] ? last[0] : drive;
    last[0] = drive;
    const count = to - from;
    ceiling.returnIn(numbers[at + NUMBER.releaseMs] / 1000);
    levels[0] = dbToGain(numbers[at + NUMBER.ceilingDb] - SAFETY_DB);
    levels[1] = 0;
    for (let i = 0; i < count; i++) peaks[i] = 0;
    for (let s = 0; s < followers.length; s++) {
      const samples = s === 0 ? left : right;
      let gain = first;
      const step = (drive - first) / count;
      for (let i = 0; i < count; i++) {
        gain += step;
        samples[from + i] *= gain;
        block[i] = samples[from + i];
      }
      followers[s].process(block, none, count, peaks, levels);
      waits[s].run(samples, from, to);
    }
    ceiling.peak[0] = levels[1];
    ceiling.peak[1] = levels[0];
    if (!ceiling.gains(peaks, gains, count)) return;
    for (let i = 0; i < count; i++) left[from + i] *= gains[i];
    if (right !== left) for (let i = 0; i < count; i++) right[from + i] *= gains[i];
  }
}

/** No true peak above its ceiling. */
export const limiter = unitKind({
  shape,
  family: 'dynamics',
  label: 'Limiter',
  purpose: 'Holds every true peak under a ceiling: loud without clipping.',
  run: (unit, start) => new LimiterRunner(unit, start),
  lateFrames: ({ lookAheadMs }, sampleRateHz) =>
    ceilingDelay(lookAheadMs / 1000, sampleRateHz) + BETWEEN_REACH,
  waitsS: ({ lookAheadMs }) => lookAheadMs / 1000,
  curve:
    ({ driveDb, ceilingDb }) =>
    (x) =>
      Math.max(-dbToGain(ceilingDb), Math.min(dbToGain(ceilingDb), dbToGain(driveDb) * x)),
});
