import { BLOCK, DelayLine, prewarp, StateVariable } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { choice, number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { rebuilds } from '../../../schema/rebuild.js';
import { sideField, unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

/** What names no other signal. */
const ITSELF = 'self';

const shape = object({
  ...unitFields('compressor'),
  thresholdDb: number('Threshold', 'dB', -60, 0, -18, 'Above this level it lowers.', {
    ...movable,
    step: 0.1,
  }),
  ratio: number('Ratio', '', 1, 50, 4, 'How many dB in make one dB out above the threshold.', {
    ...log,
    ...movable,
  }),
  kneeDb: number('Knee', 'dB', 0, 24, 6, 'How gradually it comes in around the threshold.', {
    ...movable,
    step: 0.1,
  }),
  attackMs: number('Attack', 'ms', 0.05, 200, 10, 'How fast it lowers: 63 % of the way in this time.', {
    ...log,
    ...movable,
  }),
  releaseMs: number('Release', 'ms', 5, 2000, 120, 'How fast it comes back: 63 % of the way in this time.', {
    ...log,
    ...movable,
  }),
  makeUpDb: number('Make-up', 'dB', -12, 36, 0, 'Level after it.', { ...movable, step: 0.1 }),
  lookAheadMs: rebuilds(
    'instrument',
    number('Look-ahead', 'ms', 0, 10, 0, 'How far it sees what is coming; the sound waits for as long.', {
      step: 0.1,
    }),
  ),
  level: choice(['peak', 'RMS'], 'peak'),
  /** What it listens to: itself, the kick, or a backing part. */
  listensTo: sideField(ITSELF),
  sideHighHz: number(
    'Heard above',
    'Hz',
    20,
    1000,
    20,
    'What lies below this does not make it work; off at the lowest.',
    { ...log, ...movable },
  ),
});
const NUMBER = placesOf(shape);

type Compressor = Infer<typeof shape>;

/** Time constant of the mean square, in seconds. */
const RMS_S = 0.01;
const DB_PER_E = 20 / Math.LN10;
const E_PER_DB = Math.LN10 / 20;

/**
 * By how many dB a level is lowered: the static curve of Giannoulis, Massberg and Reiss, Digital dynamic range
 * compressor design: a tutorial and analysis (2012), equation 4.
 */
export function loweredDb(levelDb: number, thresholdDb: number, ratio: number, kneeDb: number): number {
  const over = levelDb - thresholdDb;
  const slope = 1 - 1 / ratio;
  if (2 * over <= -kneeDb) return 0;
  if (2 * over < kneeDb) return (slope * (over + kneeDb / 2) ** 2) / (2 * kneeDb);
  return slope * over;
}

const lateOf = ({ lookAheadMs }: Compressor, sampleRateHz: number) =>
  Math.round((lookAheadMs / 1000) * sampleRateHz);

/**
 * A feed-forward compressor with a branching smoothed detector in the log domain, as Giannoulis, Massberg and
 * Reiss (2012) recommend: the level in dB, the static curve, then attack and release on what is lowered. Both
 * sides are lowered alike.
 */
class CompressorRunner implements UnitRunner<Compressor> {
  readonly lateFrames: number;
  private readonly waits: readonly DelayLine[];
  private readonly side: Float64Array | null;
  private readonly highs: readonly [StateVariable, StateVariable] = [
    new StateVariable('high'),
    new StateVariable('high'),
  ];
  private readonly keys: readonly [Float64Array, Float64Array] = [
    new Float64Array(BLOCK),
    new Float64Array(BLOCK),
  ];
  private readonly warped = Float64Array.of(0, 0, Math.SQRT2);
  /** Mean square, dB by which it lowers now, and the make-up at the end of the last step. */
  private readonly state = Float64Array.of(0, 0, NaN);

  constructor(
    private unit: Compressor,
    private readonly start: UnitStart,
  ) {
    this.lateFrames = lateOf(unit, start.sampleRateHz);
    this.waits =
      this.lateFrames === 0
        ? []
        : Array.from({ length: start.stereo ? 2 : 1 }, () => new DelayLine(this.lateFrames));
    this.side = unit.listensTo === ITSELF ? null : start.hears.side(unit.listensTo);
  }

  set(unit: Compressor): void {
    this.unit = unit;
  }

  copyFrom(other: CompressorRunner): void {
    if (other.lateFrames === this.lateFrames)
      this.waits.forEach((wait, s) => {
        if (s < other.waits.length) wait.copyFrom(other.waits[s]);
      });
    this.highs.forEach((high, s) => {
      high.copyFrom(other.highs[s]);
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
    const { state, start, waits } = this;
    const [key, otherKey] = this.keys;
    this.listen(left, right, from, to, numbers, at);
    for (let w = 0; w < waits.length; w++) waits[w].run(w === 0 ? left : right, from, to);
    const two = right !== left;
    const rms = this.unit.level === 'RMS';
    const threshold = numbers[at + NUMBER.thresholdDb];
    const slope = 1 - 1 / numbers[at + NUMBER.ratio];
    const knee = numbers[at + NUMBER.kneeDb];
    const attack = Math.exp(-1000 / (numbers[at + NUMBER.attackMs] * start.sampleRateHz));
    const release = Math.exp(-1000 / (numbers[at + NUMBER.releaseMs] * start.sampleRateHz));
    const square = 1 - Math.exp(-1 / (RMS_S * start.sampleRateHz));
    // Below this no logarithm is needed.
    const least = Math.exp(E_PER_DB * (threshold - knee / 2));
    const makeUp = numbers[at + NUMBER.makeUpDb];
    let mean = state[0];
    let lowered = state[1];
    let made = state[2] === state[2] ? state[2] : makeUp;
    const step = (makeUp - made) / (to - from);
    for (let i = from; i < to; i++) {
      made += step;
      let level = key[i];
      if (otherKey[i] > level) level = otherKey[i];
      if (rms) {
        mean += square * (level * level - mean);
        level = Math.sqrt(mean);
      }
      let wanted = 0;
      if (level > least) {
        const over = DB_PER_E * Math.log(level) - threshold;
        wanted =
          2 * over < knee ? (slope * (over + knee / 2) * (over + knee / 2)) / (2 * knee) : slope * over;
      }
      lowered = wanted + (wanted > lowered ? attack : release) * (lowered - wanted);
      if (lowered < 1e-9) lowered = 0;
      if (lowered === 0 && made === 0) continue;
      const gain = Math.exp(E_PER_DB * (made - lowered));
      left[i] *= gain;
      if (two) right[i] *= gain;
    }
    state[0] = mean < 1e-18 ? 0 : mean;
    state[1] = lowered;
    state[2] = makeUp;
  }

  /** Writes the magnitudes of what it listens to. */
  private listen(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { side, keys, highs, warped, start } = this;
    const sides = side === null && right !== left ? 2 : 1;
    const highHz = numbers[at + NUMBER.sideHighHz];
    warped[0] = warped[1] = highHz > 20 ? prewarp(highHz, start.sampleRateHz) : 0;
    for (let s = 0; s < 2; s++) {
      const key = keys[s];
      if (s >= sides) {
        for (let i = from; i < to; i++) key[i] = 0;
        continue;
      }
      const source = side ?? (s === 0 ? left : right);
      for (let i = from; i < to; i++) key[i] = source[i];
      if (warped[0] > 0) highs[s].process(key, from, to, warped);
      for (let i = from; i < to; i++) if (key[i] < 0) key[i] = -key[i];
    }
  }
}

/** Lowers what is loud. */
export const compressor = unitKind({
  shape,
  family: 'dynamics',
  label: 'Compressor',
  purpose: 'Lowers what is loud, by its own level or by the kick’s: glues and pumps.',
  run: (unit, start) => new CompressorRunner(unit, start),
  lateFrames: lateOf,
  chance: {
    stage: 'press',
    weight: 3,
    within: { thresholdDb: [-30, -12], ratio: [2, 8], attackMs: [2, 40], releaseMs: [40, 300] },
  },
  hears: ({ listensTo }) => (listensTo === ITSELF ? null : listensTo),
  hearsIn: 'listensTo',
  waitsS: ({ lookAheadMs }) => lookAheadMs / 1000,
  curve: (unit) => (x) => {
    const level = 20 * Math.log10(Math.max(1e-6, Math.abs(x)));
    const lowered = loweredDb(level, unit.thresholdDb, unit.ratio, unit.kneeDb);
    return Math.sign(x) * 10 ** ((level - lowered + unit.makeUpDb) / 20);
  },
});
