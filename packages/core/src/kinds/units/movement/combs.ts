import { BLOCK, Comb } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { rebuilds, switched } from '../../../schema/rebuild.js';
import { choice, flag, list, number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { dbToGain } from '../../../units/index.js';
import { unitFields, unitKind, wetFrom, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';
import { Sweep, sweepRate } from './sweep.js';

const COMBS = 4;

const combShape = switched(
  object({
    on: rebuilds('instrument', flag(false)),
    tuned: choice(['note', 'free'], 'note'),
    semitones: number('Interval', 'st', -24, 48, 12, 'How far from the note it is tuned.', {
      ...movable,
      step: 0.01,
    }),
    hz: number('Frequency', 'Hz', 20, 4000, 220, 'Where it is tuned.', { ...log, ...movable }),
    resonancePct: number('Resonance', '%', 0, 99, 70, 'How long it rings.', { ...movable, step: 0.5 }),
    levelDb: number('Level', 'dB', -36, 6, 0, 'Level of this comb.', { ...movable, step: 0.1 }),
  }),
);

const shape = object({
  ...unitFields('combs'),
  ...wetFrom(50),
  combs: list(combShape, COMBS, COMBS),
  rateHz: sweepRate(0.2),
  depthCt: number('Depth', 'ct', 0, 1200, 20, 'How far they are moved in pitch.', { ...movable, step: 1 }),
});
const NUMBER = placesOf(shape);
const COMB = placesOf(combShape);

type Combs = Infer<typeof shape>;

/** Without a note, what is tuned to one stands at F1. */
const NO_NOTE_HZ = 43.654;
/** Frames of the longest comb. */
const LONGEST = 16000;

/** Up to four combs beside each other, tuned to the note or by themselves, swinging apart from one another. */
class CombsRunner implements UnitRunner<Combs> {
  readonly lateFrames = 0;
  private readonly sides: readonly (readonly (Comb | null)[])[];
  private readonly sweep = new Sweep();
  private readonly ends = new Float64Array(COMBS).fill(NaN);
  private readonly gains = new Float64Array(COMBS).fill(NaN);
  private readonly form = new Float64Array(4);
  private readonly one = new Float64Array(BLOCK);
  private readonly sum = new Float64Array(BLOCK);
  private readonly share: number;

  constructor(
    private unit: Combs,
    private readonly start: UnitStart,
  ) {
    const made = () => unit.combs.map(({ on }) => (on ? new Comb(false) : null));
    this.sides = [made(), made()];
    this.share = 1 / Math.sqrt(Math.max(1, unit.combs.filter(({ on }) => on).length));
  }

  set(unit: Combs): void {
    this.unit = unit;
  }

  copyFrom(other: CombsRunner): void {
    this.sides.forEach((side, s) => {
      side.forEach((comb, c) => {
        const from = other.sides[s][c];
        if (from) comb?.copyFrom(from);
      });
    });
    this.sweep.copyFrom(other.sweep);
    this.ends.set(other.ends);
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
    const { sides, sweep, ends, gains, form, one, sum, start, share } = this;
    sweep.turn(to - from, numbers, at + NUMBER.rateHz, start.sampleRateHz);
    const played = start.hears.hz[0] > 0 ? start.hears.hz[0] : NO_NOTE_HZ;
    const depth = (Math.LN2 / 1200) * numbers[at + NUMBER.depthCt];
    for (let s = 0; s < (right === left ? 1 : 2); s++) {
      const samples = s === 0 ? left : right;
      for (let i = from; i < to; i++) sum[i] = 0;
      for (let c = 0; c < COMBS; c++) {
        const comb = sides[s][c];
        if (!comb) continue;
        const own = at + NUMBER.combs.first + c * NUMBER.combs.each;
        const hz =
          this.unit.combs[c].tuned === 'note'
            ? played * Math.exp((Math.LN2 / 12) * numbers[own + COMB.semitones])
            : numbers[own + COMB.hz];
        const swing = Math.exp(depth * Math.sin(2 * Math.PI * (sweep.phase[0] + c / COMBS)));
        let frames = start.sampleRateHz / (hz * swing);
        frames = frames > LONGEST ? LONGEST : frames < 4 ? 4 : frames;
        const first = ends[c] === ends[c] ? ends[c] : frames;
        form[0] = first;
        form[1] = frames;
        form[2] = numbers[own + COMB.resonancePct] / 100;
        const level = share * dbToGain(numbers[own + COMB.levelDb]);
        const before = gains[c] === gains[c] ? gains[c] : level;
        if (s === 1 || right === left) {
          ends[c] = frames;
          gains[c] = level;
        }
        for (let i = from; i < to; i++) one[i] = samples[i];
        comb.process(one, from, to, form);
        const step = (level - before) / (to - from);
        for (let i = from; i < to; i++) sum[i] += (before + (i - from + 1) * step) * one[i];
      }
      for (let i = from; i < to; i++) samples[i] = sum[i];
    }
  }
}

/** Ringing combs. */
export const combs = unitKind({
  shape,
  family: 'movement',
  label: 'Combs',
  purpose: 'Up to four ringing combs, tuned to the note or free: metal, strings, hollow pipes.',
  run: (unit, start) => new CombsRunner(unit, start),
  waitsS: () => 0.35,
  idle: ({ combs: all }) =>
    all.flatMap(({ on, tuned }, c) =>
      (!on ? ['semitones', 'hz', 'resonancePct', 'levelDb'] : tuned === 'note' ? ['hz'] : ['semitones']).map(
        (field) => `combs.${c}.${field}`,
      ),
    ),
});
