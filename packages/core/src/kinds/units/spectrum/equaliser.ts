import { BLOCK, EqualiserSection, Random, SECTION_KINDS, sectionDb } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { rebuilds, switched } from '../../../schema/rebuild.js';
import { choice, flag, list, number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { built, unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

const SECTIONS = 8;

const sectionShape = switched(
  object({
    on: rebuilds('instrument', flag(false)),
    form: built(SECTION_KINDS, 'bell'),
    slope: choice(['6', '12', '18', '24', '30', '36', '42', '48'], '24'),
    hz: number('Frequency', 'Hz', 20, 20000, 500, 'Where it acts.', { ...log, ...movable }),
    gainDb: number('Gain', 'dB', -24, 24, 0, 'How much it raises or lowers.', { ...movable, step: 0.1 }),
    q: number('Q', 'Q', 0.1, 18, 1, 'How narrow it is.', { ...log, ...movable }),
    way: built(['static', 'wandering', 'tail'], 'static'),
    wanderOct: number('Wanders by', 'oct', 0, 3, 0.5, 'How far its frequency wanders to either side.', {
      ...movable,
      step: 0.01,
    }),
    wanderDb: number('Wanders by, gain', 'dB', 0, 12, 3, 'How far its gain wanders to either side.', {
      ...movable,
      step: 0.1,
    }),
  }),
);

const shape = object({
  ...unitFields('equaliser'),
  sections: list(sectionShape, SECTIONS, SECTIONS),
  wanderHz: number('Wandering', 'Hz', 0.02, 20, 0.4, 'New places in a second for what wanders.', {
    ...log,
    ...movable,
  }),
  tailMs: number('Hits', 'ms', 5, 500, 60, 'How long a hit passes untouched before its tail is worked on.', {
    ...log,
    ...movable,
  }),
});
const NUMBER = placesOf(shape);
const SECTION = placesOf(sectionShape);

type Equaliser = Infer<typeof shape>;
type Section = Equaliser['sections'][number];

/** Ratio of a fast and a slow envelope from which a hit begins: 4 dB. */
const HIT = 1.6;
const FAST_S = 0.0008;
const SLOW_S = 0.03;
const FALL_S = 0.09;
/** Time in which a hit takes a section out. */
const OUT_S = 0.001;
const SILENCE = 1e-5;

/** A section with a random way of its own. */
class WanderingSection {
  readonly sides: readonly [EqualiserSection, EqualiserSection];
  private readonly numbers = new Float64Array(4);
  private readonly random: Random;
  /** Where it comes from and where it goes, of frequency and gain, −1 to 1; how far it is on its way. */
  private readonly way = new Float64Array(5);

  constructor(
    private setting: Section,
    sampleRateHz: number,
    seed: number,
    stream: number,
  ) {
    this.sides = [
      new EqualiserSection(setting.form, sampleRateHz),
      new EqualiserSection(setting.form, sampleRateHz),
    ];
    this.random = new Random(seed, 60 + stream);
    this.way[1] = 2 * this.random.next() - 1;
    this.way[3] = 2 * this.random.next() - 1;
  }

  take(setting: Section): void {
    this.setting = setting;
  }

  copyFrom(other: WanderingSection): void {
    this.sides.forEach((side, s) => {
      side.copyFrom(other.sides[s]);
    });
    this.way.set(other.way);
    this.random.copyFrom(other.random);
  }

  get tail(): boolean {
    return this.setting.way === 'tail';
  }

  /** Moves on by a part of a way, and sets both sides. */
  move(part: number, values: Float64Array, at: number): void {
    const { numbers, way, setting } = this;
    numbers[0] = values[at + SECTION.hz];
    numbers[1] = values[at + SECTION.gainDb];
    numbers[2] = values[at + SECTION.q];
    numbers[3] = SLOPES[setting.slope];
    if (setting.way === 'wandering') {
      way[4] += part;
      if (way[4] >= 1) {
        way[4] -= Math.floor(way[4]);
        way[0] = way[1];
        way[2] = way[3];
        way[1] = 2 * this.random.next() - 1;
        way[3] = 2 * this.random.next() - 1;
      }
      const t = way[4] * way[4] * (3 - 2 * way[4]);
      const hz = numbers[0] * 2 ** (values[at + SECTION.wanderOct] * (way[0] + t * (way[1] - way[0])));
      numbers[0] = hz < 20 ? 20 : hz > 20000 ? 20000 : hz;
      numbers[1] += values[at + SECTION.wanderDb] * (way[2] + t * (way[3] - way[2]));
    }
    this.sides[0].set(numbers);
    this.sides[1].set(numbers);
  }
}

const SLOPES = { 6: 6, 12: 12, 18: 18, 24: 24, 30: 30, 36: 36, 42: 42, 48: 48 } as const;

/**
 * Up to eight sections (`EqualiserSection`), each standing still, wandering by chance on a smooth way within its
 * bounds, or acting on tails alone: while a hit lasts, found by a fast envelope over a slow one, what it changes is
 * left out.
 */
class EqualiserRunner implements UnitRunner<Equaliser> {
  readonly lateFrames = 0;
  private readonly sections: readonly (WanderingSection | null)[];
  private readonly rate: number;
  /** Fast and slow envelope, how far tails are worked on, frames until a hit is over. */
  private readonly state = Float64Array.of(0, 0, 1, 0);
  private readonly shares = new Float64Array(BLOCK);
  private readonly dry = new Float64Array(BLOCK);
  private readonly tails: boolean;

  constructor(unit: Equaliser, { sampleRateHz, seed }: UnitStart) {
    this.rate = sampleRateHz;
    this.sections = unit.sections.map((section, s) =>
      section.on ? new WanderingSection(section, sampleRateHz, seed, s) : null,
    );
    this.tails = unit.sections.some(({ on, way }) => on && way === 'tail');
  }

  set(unit: Equaliser): void {
    this.sections.forEach((section, s) => {
      section?.take(unit.sections[s]);
    });
  }

  copyFrom(other: EqualiserRunner): void {
    this.sections.forEach((section, s) => {
      const from = other.sections[s];
      if (from) section?.copyFrom(from);
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
    const { sections, rate } = this;
    if (this.tails) this.findHits(left, right, from, to, numbers[at + NUMBER.tailMs]);
    const part = (numbers[at + NUMBER.wanderHz] * (to - from)) / rate;
    for (let s = 0; s < sections.length; s++) {
      const section = sections[s];
      if (!section) continue;
      section.move(part, numbers, at + NUMBER.sections.first + s * NUMBER.sections.each);
      this.side(section, 0, left, from, to);
      if (right !== left) this.side(section, 1, right, from, to);
    }
  }

  private side(
    section: WanderingSection,
    side: 0 | 1,
    samples: Float64Array,
    from: number,
    to: number,
  ): void {
    if (!section.tail) {
      section.sides[side].process(samples, from, to);
      return;
    }
    const { dry, shares } = this;
    for (let i = from; i < to; i++) dry[i] = samples[i];
    section.sides[side].process(samples, from, to);
    for (let i = from; i < to; i++) samples[i] = dry[i] + shares[i] * (samples[i] - dry[i]);
  }

  /** Writes how far tails are worked on. */
  private findHits(left: Float64Array, right: Float64Array, from: number, to: number, tailMs: number): void {
    const { state, shares, rate } = this;
    const fast = 1 - Math.exp(-1 / (FAST_S * rate));
    const slow = 1 - Math.exp(-1 / (SLOW_S * rate));
    const fall = 1 - Math.exp(-1 / (FALL_S * rate));
    const out = 1 / (OUT_S * rate);
    const back = 3000 / (tailMs * rate);
    for (let i = from; i < to; i++) {
      const a = left[i] < 0 ? -left[i] : left[i];
      const b = right[i] < 0 ? -right[i] : right[i];
      const x = a > b ? a : b;
      state[0] += (x > state[0] ? fast : fall) * (x - state[0]);
      state[1] += (x > state[1] ? slow : fall) * (x - state[1]);
      if (state[0] > HIT * (state[1] + SILENCE)) state[3] = (tailMs / 1000) * rate;
      else if (state[3] > 0) state[3]--;
      const share = state[3] > 0 ? state[2] - out : state[2] + back;
      state[2] = share < 0 ? 0 : share > 1 ? 1 : share;
      shares[i] = state[2];
    }
    if (state[0] < 1e-18) state[0] = 0;
    if (state[1] < 1e-18) state[1] = 0;
  }
}

/** Raises and lowers parts of the spectrum. */
export const equaliser = unitKind({
  shape,
  family: 'spectrum',
  label: 'Equaliser',
  purpose: 'Raises and lowers parts of the sound: still, wandering, or on tails alone.',
  run: (unit, start) => new EqualiserRunner(unit, start),
  idle: ({ sections }) => [
    ...(sections.some(({ on, way }) => on && way === 'wandering') ? [] : ['wanderHz']),
    ...(sections.some(({ on, way }) => on && way === 'tail') ? [] : ['tailMs']),
    ...sections.flatMap(({ on, form, way }, s) => {
      const none = !on
        ? ['hz', 'gainDb', 'q', 'wanderOct', 'wanderDb']
        : [
            ...(form === 'low cut' || form === 'high cut' ? ['gainDb', 'q', 'wanderDb'] : ['slope']),
            ...(way === 'wandering' ? [] : ['wanderOct', 'wanderDb']),
          ];
      return none.map((field) => `sections.${s}.${field}`);
    }),
  ],
  response:
    ({ sections }) =>
    (hz) =>
      sections
        .filter(({ on }) => on)
        .reduce(
          (sum, { form, slope, hz: at, gainDb, q }) =>
            sum + sectionDb({ kind: form, hz: at, gainDb, q, slopeDb: SLOPES[slope] }, hz, 48000),
          0,
        ),
});
