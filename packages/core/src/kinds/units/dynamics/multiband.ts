import { BandSplit, BLOCK, prewarp } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { list, number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { dbToGain } from '../../../units/index.js';
import { built, unitFields, unitKind, UNIT_WET, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

const MOST_BANDS = 4;

const bandShape = object({
  aboveDb: number('Down above', 'dB', -60, 0, -20, 'What is louder than this is lowered.', {
    ...movable,
    step: 0.1,
  }),
  aboveRatio: number('Ratio above', '', 1, 20, 3, 'How strongly what is louder is lowered.', {
    ...log,
    ...movable,
  }),
  belowDb: number('Up below', 'dB', -72, 0, -36, 'What is softer than this is raised.', {
    ...movable,
    step: 0.1,
  }),
  belowRatio: number('Ratio below', '', 1, 20, 1.5, 'How strongly what is softer is raised.', {
    ...log,
    ...movable,
  }),
  gainDb: number('Level', 'dB', -24, 24, 0, 'Level of the band.', { ...movable, step: 0.1 }),
});

const shape = object({
  ...unitFields('multiband compressor'),
  bands: built(['2', '3', '4'], '3'),
  firstHz: number('First crossover', 'Hz', 40, 1000, 120, 'Between the first band and the second.', {
    ...log,
    ...movable,
  }),
  secondHz: number('Second crossover', 'Hz', 200, 6000, 1200, 'Between the second band and the third.', {
    ...log,
    ...movable,
  }),
  thirdHz: number('Third crossover', 'Hz', 1000, 14000, 4500, 'Between the third band and the fourth.', {
    ...log,
    ...movable,
  }),
  each: list(bandShape, MOST_BANDS, MOST_BANDS),
  timePct: number('Time', '%', 10, 1000, 100, 'Stretches all times: below 100 % it works faster.', {
    ...log,
    ...movable,
  }),
  amountPct: number('Amount', '%', 0, 100, 100, 'How much of what it would do it does.', {
    ...movable,
    step: 0.5,
  }),
});
const NUMBER = placesOf(shape);
const BAND = placesOf(bandShape);

type Multiband = Infer<typeof shape>;

/** Attack and release of the deepest band in seconds; each band above has these times. */
const ATTACK_S = 0.02;
const RELEASE_S = 0.16;
const FASTER = 0.6;
/** What is softer than this is not raised: silence stays silent. */
const FLOOR_DB = -72;
/** The bands turn the phase together; as good as dry, what went in comes out untouched by that, too. */
const NEARLY_DRY_PCT = 2;
/** Most that is raised, in dB. */
const MOST_RAISED_DB = 24;
/** The gain is found anew every so many frames, and goes there in a straight line. */
const EACH = 8;
const DB_PER_E = 20 / Math.LN10;
const E_PER_DB = Math.LN10 / 20;

/**
 * Two to four bands (`BandSplit`), each lowered above one level and raised below another, by its power over a
 * short time and a smoothed gain, as the compressor's. Both sides alike.
 */
class MultibandRunner implements UnitRunner<Multiband> {
  readonly lateFrames = 0;
  private readonly count: number;
  private readonly splits: readonly BandSplit[];
  private readonly crossings: readonly Float64Array[];
  /** For each band: mean square, gain in dB, and the gain where it stands; not a number before the first step. */
  private readonly state: Float64Array;
  private readonly rate: number;
  private readonly dry: readonly [Float64Array, Float64Array] = [
    new Float64Array(BLOCK),
    new Float64Array(BLOCK),
  ];

  constructor(unit: Multiband, { sampleRateHz, stereo }: UnitStart) {
    this.count = Number(unit.bands);
    this.rate = sampleRateHz;
    this.splits = Array.from({ length: stereo ? 2 : 1 }, () => new BandSplit(this.count));
    this.crossings = Array.from({ length: this.count - 1 }, () => Float64Array.of(NaN, NaN));
    this.state = new Float64Array(3 * this.count).fill(0);
    for (let b = 0; b < this.count; b++) this.state[3 * b + 2] = NaN;
  }

  copyFrom(other: MultibandRunner): void {
    this.splits.forEach((split, s) => {
      if (s < other.splits.length) split.copyFrom(other.splits[s]);
    });
    if (other.count !== this.count) return;
    this.state.set(other.state);
    this.crossings.forEach((crossing, c) => {
      crossing.set(other.crossings[c]);
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
    const { count, splits, crossings, rate } = this;
    let below = 0;
    for (let c = 0; c < count - 1; c++) {
      // Crossovers that meet would leave a band of nothing: each stays above the one below.
      let hz = numbers[at + NUMBER.firstHz + c];
      if (hz < 1.1 * below) hz = 1.1 * below;
      below = hz;
      const crossing = crossings[c];
      const warped = prewarp(hz, rate);
      crossing[0] = crossing[1] === crossing[1] ? crossing[1] : warped;
      crossing[1] = warped;
    }
    const dry = numbers[at + UNIT_WET] < NEARLY_DRY_PCT ? 1 - numbers[at + UNIT_WET] / NEARLY_DRY_PCT : 0;
    for (let s = 0; s < splits.length; s++) {
      const samples = s === 0 ? left : right;
      splits[s].process(samples, from, to, crossings);
      if (dry > 0) for (let i = from; i < to; i++) this.dry[s][i] = samples[i];
      for (let i = from; i < to; i++) samples[i] = 0;
    }
    for (let b = 0; b < count; b++) this.band(b, left, right, from, to, numbers, at);
    if (dry === 0) return;
    for (let s = 0; s < splits.length; s++) {
      const samples = s === 0 ? left : right;
      for (let i = from; i < to; i++) samples[i] += dry * (this.dry[s][i] - samples[i]);
    }
  }

  private band(
    b: number,
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { state, splits, rate } = this;
    const own = at + NUMBER.each.first + b * NUMBER.each.each;
    const amount = numbers[at + NUMBER.amountPct] / 100;
    const wet = numbers[at + UNIT_WET] / 100;
    const time = (numbers[at + NUMBER.timePct] / 100) * FASTER ** b * rate;
    const attack = Math.exp(-1 / (ATTACK_S * time));
    const release = Math.exp(-1 / (RELEASE_S * time));
    const square = 1 - attack * attack;
    const aboveDb = numbers[own + BAND.aboveDb];
    const above = 1 / numbers[own + BAND.aboveRatio] - 1;
    const low = numbers[own + BAND.belowDb] < aboveDb ? numbers[own + BAND.belowDb] : aboveDb;
    const raise = 1 - 1 / numbers[own + BAND.belowRatio];
    const level = dbToGain(numbers[own + BAND.gainDb]);
    const attackEach = attack ** EACH;
    const releaseEach = release ** EACH;
    const place = 3 * b;
    let mean = state[place];
    let gainDb = state[place + 1];
    let gain = state[place + 2];
    const a = splits[0].bands[b];
    const c = splits.length > 1 ? splits[1].bands[b] : a;
    for (let start = from; start < to; start += EACH) {
      const end = start + EACH < to ? start + EACH : to;
      for (let i = start; i < end; i++) {
        const x = a[i] * a[i];
        const y = c[i] * c[i];
        mean += square * ((x > y ? x : y) - mean);
      }
      const levelDb = mean > 1e-12 ? 0.5 * DB_PER_E * Math.log(2 * mean) : -120;
      let wanted = 0;
      if (levelDb > aboveDb) wanted = above * (levelDb - aboveDb);
      else if (levelDb < low && levelDb > FLOOR_DB) {
        wanted = raise * (low - levelDb);
        if (wanted > MOST_RAISED_DB) wanted = MOST_RAISED_DB;
        const fades = (levelDb - FLOOR_DB) / 12;
        if (fades < 1) wanted *= fades;
      }
      const falls = wanted < gainDb;
      const stays =
        end - start === EACH
          ? falls
            ? attackEach
            : releaseEach
          : (falls ? attack : release) ** (end - start);
      gainDb = wanted + stays * (gainDb - wanted);
      const goal = 1 + wet * (level * Math.exp(E_PER_DB * amount * gainDb) - 1);
      if (gain !== gain) gain = goal;
      const step = (goal - gain) / (end - start);
      for (let i = start; i < end; i++) {
        gain += step;
        left[i] += gain * a[i];
        if (right !== left) right[i] += gain * c[i];
      }
    }
    state[place] = mean < 1e-18 ? 0 : mean;
    state[place + 1] = gainDb < 1e-9 && gainDb > -1e-9 ? 0 : gainDb;
    state[place + 2] = gain;
  }
}

/** Bands, each lowered above one level and raised below another. */
export const multibandCompressor = unitKind({
  shape,
  family: 'dynamics',
  label: 'Multiband compressor',
  purpose: 'Evens out lows, mids and tops each by itself: lowers what is loud, raises what is soft.',
  run: (unit, start) => new MultibandRunner(unit, start),
  mixes: true,
  idle: ({ bands }) => (bands === '2' ? ['secondHz', 'thirdHz'] : bands === '3' ? ['thirdHz'] : []),
});
