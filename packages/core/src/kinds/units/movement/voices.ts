import { AboveOnly, BLOCK, LEAST_DELAY, MovingDelay, Random } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { rebuilds } from '../../../schema/rebuild.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { movable, whole } from '../../../schema/shape-parts.js';
import {
  aboveField,
  LEAST_ABOVE_HZ,
  unitFields,
  unitKind,
  wetFrom,
  type UnitRunner,
  type UnitStart,
} from '../kind/unit-kind.js';
import { delayField, spreadField, sweepRate } from './sweep.js';

const voicesField = (least: number, most: number, def: number) =>
  rebuilds('instrument', number('Voices', '', least, most, def, 'How many copies sound at once.', whole));

const chorusShape = object({
  ...unitFields('chorus'),
  ...wetFrom(50),
  voices: voicesField(2, 8, 4),
  delayMs: delayField(2, 40, 14),
  depthMs: number('Depth', 'ms', 0, 10, 2.5, 'How far the delays swing.', { ...movable, step: 0.01 }),
  rateHz: sweepRate(0.6),
  spreadPct: spreadField(100),
  aboveHz: aboveField(),
});
const CHORUS = placesOf(chorusShape);
type Chorus = Infer<typeof chorusShape>;

const unisonShape = object({
  ...unitFields('unison'),
  ...wetFrom(60),
  voices: voicesField(2, 16, 5),
  detuneCt: number('Detune', 'ct', 0, 100, 14, 'How far the voices stray in pitch.', {
    ...movable,
    step: 0.1,
  }),
  widthPct: number('Width', '%', 0, 100, 80, 'How far apart the voices stand.', { ...movable, step: 1 }),
  aboveHz: aboveField(),
});
const UNISON = placesOf(unisonShape);
type Unison = Infer<typeof unisonShape>;

/** Longest delay of a copy in seconds. */
const LONGEST_S = 0.06;
/** Least delay of a unison's voice, and how fast they stray, in hertz: by chance between these. */
const UNISON_DELAY_S = 0.003;
const UNISON_SLOWEST_HZ = 0.25;
const UNISON_FASTEST_HZ = 1.6;

/**
 * Copies by moved delays: each swings on a sine of its own, and so strays in pitch. Chorus as in Dattorro, Effect
 * design part 2: delay-line modulation and chorus (1997).
 */
abstract class Copies<U> implements UnitRunner<U> {
  readonly lateFrames = 0;
  protected readonly rate: number;
  /** Of each copy: phase in turns. */
  protected readonly phases: Float64Array;
  /** Of each copy: its delay in frames, left then right, and how loud it is on each side. */
  protected readonly wanted: Float64Array;
  protected readonly gains: Float64Array;
  private readonly ends: Float64Array;
  private readonly rings: readonly MovingDelay[];
  private readonly sum: readonly [Float64Array, Float64Array] = [
    new Float64Array(BLOCK),
    new Float64Array(BLOCK),
  ];
  private readonly above: AboveOnly;

  constructor(
    protected readonly count: number,
    { sampleRateHz, seed }: UnitStart,
    evenly: boolean,
  ) {
    this.rate = sampleRateHz;
    const random = new Random(seed, 80);
    this.phases = Float64Array.from({ length: count }, (_, v) => (evenly ? v / count : random.next()));
    this.wanted = new Float64Array(2 * count);
    this.gains = new Float64Array(2 * count).fill(1 / Math.sqrt(count));
    this.ends = new Float64Array(2 * count).fill(NaN);
    this.rings = [0, 1].map(() => new MovingDelay(Math.ceil(LONGEST_S * sampleRateHz)));
    this.above = new AboveOnly(sampleRateHz);
  }

  copyFrom(other: Copies<U>): void {
    this.rings.forEach((ring, s) => {
      ring.copyFrom(other.rings[s]);
    });
    this.above.copyFrom(other.above);
    if (other.count !== this.count) return;
    this.phases.set(other.phases);
    this.ends.set(other.ends);
  }

  /** Moves the copies on, and says by `wanted` and `gains` where they stand then. */
  protected abstract move(frames: number, numbers: Float64Array, at: number): void;
  /** Place of the bound below which nothing is changed. */
  protected abstract readonly aboveAt: number;

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { rings, sum, gains, ends, wanted, count, above, rate } = this;
    this.move(to - from, numbers, at);
    const bound = numbers[at + this.aboveAt] > LEAST_ABOVE_HZ;
    if (bound) above.keep(left, right, from, to);
    const longest = LONGEST_S * rate;
    for (let s = 0; s < (right === left ? 1 : 2); s++) {
      const samples = s === 0 ? left : right;
      const out = sum[s];
      rings[s].write(samples, from, to);
      for (let i = from; i < to; i++) out[i] = 0;
      for (let v = 0; v < count; v++) {
        const place = s * count + v;
        if (wanted[place] < LEAST_DELAY) wanted[place] = LEAST_DELAY;
        else if (wanted[place] > longest) wanted[place] = longest;
        rings[s].add(out, from, to, ends, wanted, gains, place);
      }
      for (let i = from; i < to; i++) samples[i] = out[i];
    }
    if (bound) above.restore(left, right, from, to, numbers, at + this.aboveAt);
  }
}

class ChorusRunner extends Copies<Chorus> {
  protected readonly aboveAt = CHORUS.aboveHz;

  constructor(unit: Chorus, start: UnitStart) {
    super(unit.voices, start, true);
  }

  protected move(frames: number, numbers: Float64Array, at: number): void {
    const { phases, wanted, count, rate } = this;
    const turned = (numbers[at + CHORUS.rateHz] * frames) / rate;
    const delay = (numbers[at + CHORUS.delayMs] / 1000) * rate;
    const depth = (numbers[at + CHORUS.depthMs] / 1000) * rate;
    // The copies of one side stand between those of the other.
    const apart = (0.5 / count) * (numbers[at + CHORUS.spreadPct] / 100);
    for (let v = 0; v < count; v++) {
      const next = phases[v] + turned;
      phases[v] = next - Math.floor(next);
      wanted[v] = delay + depth * Math.sin(2 * Math.PI * phases[v]);
      wanted[count + v] = delay + depth * Math.sin(2 * Math.PI * (phases[v] + apart));
    }
  }
}

class UnisonRunner extends Copies<Unison> {
  protected readonly aboveAt = UNISON.aboveHz;
  private readonly speeds: Float64Array;

  constructor(unit: Unison, start: UnitStart) {
    super(unit.voices, start, false);
    const random = new Random(start.seed, 81);
    this.speeds = Float64Array.from(
      { length: unit.voices },
      () => UNISON_SLOWEST_HZ * (UNISON_FASTEST_HZ / UNISON_SLOWEST_HZ) ** random.next(),
    );
  }

  protected move(frames: number, numbers: Float64Array, at: number): void {
    const { phases, wanted, gains, speeds, count, rate } = this;
    const strays = Math.exp((Math.LN2 / 1200) * numbers[at + UNISON.detuneCt]) - 1;
    const width = numbers[at + UNISON.widthPct] / 100;
    const level = 1 / Math.sqrt(count);
    for (let v = 0; v < count; v++) {
      const next = phases[v] + (speeds[v] * frames) / rate;
      phases[v] = next - Math.floor(next);
      // The pitch strays by the delay's own slope, at most 2π·depth·speed.
      const depth = (strays / (2 * Math.PI * speeds[v])) * rate;
      const swing = Math.sin(2 * Math.PI * phases[v]);
      wanted[v] = wanted[count + v] = UNISON_DELAY_S * rate + depth * (1 + swing);
      const pan = count > 1 ? width * ((2 * v) / (count - 1) - 1) : 0;
      gains[v] = level * Math.sqrt(1 - pan);
      gains[count + v] = level * Math.sqrt(1 + pan);
    }
  }
}

/** Swinging copies. */
export const chorus = unitKind({
  shape: chorusShape,
  family: 'movement',
  label: 'Chorus',
  purpose: 'Copies that swing a little: thicker and wider, the lows left alone.',
  run: (unit, start) => new ChorusRunner(unit, start),
  chance: { stage: 'move', weight: 2, within: { rateHz: [0.1, 2], depthMs: [0.5, 4], wetPct: [20, 60] } },
  widens: () => true,
  waitsS: () => LONGEST_S,
});

/** Voices that stray in pitch. */
export const unison = unitKind({
  shape: unisonShape,
  family: 'movement',
  label: 'Unison',
  purpose: 'Many voices a few cents apart, spread from left to right, the lows left alone.',
  run: (unit, start) => new UnisonRunner(unit, start),
  chance: { stage: 'move', weight: 2, within: { detuneCt: [5, 25], wetPct: [30, 70] } },
  widens: () => true,
  waitsS: () => LONGEST_S,
});
