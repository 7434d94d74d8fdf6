import {
  AsItIs,
  Bell,
  BLOCK,
  dampingOf,
  EightTimes,
  FourTimes,
  prewarp,
  Tilt,
  MixedCurve,
  MIX_BIAS,
  MIX_GAIN,
  MIX_WET,
  type Curve,
  type Oversampled,
} from '../../../dsp/index.js';
import { dbToGain } from '../../../units/index.js';
import { choice, number, object, type Infer, type SchemaNode } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { placesOf } from '../../../schema/places.js';
import {
  unitFields,
  unitKind,
  UNIT_WET,
  type UnitChance,
  type UnitRunner,
  type UnitStart,
} from '../kind/unit-kind.js';

/** 1/Q of the emphasised band: an octave and a half wide. */
const EMPHASIS_DAMPING = dampingOf(1.5);
/** What names no other signal. */
export const LEVEL_ALONE = 'level';
/** Corner of the running mean that is taken off where a curve is not even-handed. */
const MEAN_HZ = 2;
/** Bias, lean, or wet share, in per cent up to which taking off the mean comes in. */
const MEAN_FROM_PCT = 2;

/** What every shaper has. */
const shaperFields = <const K extends string>(kind: K) => ({
  ...unitFields(kind),
  driveDb: number('Drive', 'dB', -12, 48, 6, 'Pushes the signal into the curve.', { ...movable, step: 0.1 }),
  biasPct: number(
    'Bias',
    '%',
    -100,
    100,
    0,
    'Moves the signal off the middle of the curve: even harmonics.',
    {
      ...movable,
      step: 0.5,
    },
  ),
  emphasis: choice(['bell', 'tilt'], 'bell'),
  emphasisHz: number('Emphasis at', 'Hz', 30, 12000, 800, 'Where the curve leans on the signal.', {
    ...log,
    ...movable,
  }),
  emphasisDb: number(
    'Emphasis',
    'dB',
    -24,
    24,
    0,
    'Raised before the curve and taken back after it: what stands out is bent more.',
    { ...movable, step: 0.1 },
  ),
});
const FIELDS = object(shaperFields('soft clip'));
const NUMBER = placesOf(FIELDS);
/** Numbers of a kind's own come after these. */
export const SHAPER_NUMBERS = NUMBER.emphasisDb + 1;

type Shaper = Infer<typeof FIELDS>;

/** A curve that takes its kind's own numbers, which stand in `numbers` from `at` on. */
export interface OwnCurve extends Curve {
  take?(numbers: Float64Array, at: number): void;
  /** See `UnitRunner.comeRound`. */
  comeRound?(): void;
}

// Places in what both sides are told of a step: gain into the curve and bias at its start and its end, what the
// bias alone gives, the share of the running mean that is taken off and how fast it follows, the emphasis in dB.
const GAIN_0 = 0;
const GAIN_1 = 1;
const BIAS_0 = 2;
const BIAS_1 = 3;
const REST = 4;
const MEAN_SHARE = 5;
const MEAN_RATE = 6;
const EMPHASIS = 7;
const TOLD = 8;

/**
 * What a kind of shaper does behind its curve; the unit's numbers stand in `numbers` from `at` on, its kind's own from
 * `at + SHAPER_NUMBERS`.
 */
export interface AfterCurve {
  copyFrom(other: AfterCurve): void;
  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void;
}

/** A kind of shaper: its curve, and its own fields, which come after those that all have. */
export interface ShaperSpec<K extends string, F extends Record<string, SchemaNode>> {
  readonly kind: K;
  readonly label: string;
  readonly purpose: string;
  readonly fields?: F;
  /** How often chance takes it, and its own numbers' bounds. */
  readonly chance?: Pick<UnitChance, 'weight' | 'within'>;
  /** How many times oversampled: four unless set. */
  readonly times?: 1 | 4 | 8;
  /** Its curve; `stream` tells the sides apart for chance. */
  curve(start: Pick<UnitStart, 'sampleRateHz' | 'seed'>, stream: number): OwnCurve;
  /** What comes after the curve, where there is more. */
  after?(start: UnitStart): AfterCurve;
  /** How far it is from even-handed by its own numbers, in per cent. */
  readonly leans?: (numbers: Float64Array, at: number) => number;
  /** Whether another signal may be taken off in front of the curve: the field that names it. */
  readonly against?: keyof F & string;
}

const RATES = { 1: AsItIs, 4: FourTimes, 8: EightTimes } as const;

/** One side of a shaper. */
class Side {
  readonly lateFrames: number;
  readonly curve: OwnCurve;
  private readonly bell = new Bell();
  private readonly bellBack = new Bell();
  private readonly tilt = new Tilt();
  private readonly tiltBack = new Tilt();
  private readonly over: Oversampled;
  readonly mix: MixedCurve;
  private readonly mean = new Float64Array(1);

  constructor(curve: OwnCurve, times: 1 | 4 | 8) {
    this.curve = curve;
    this.mix = new MixedCurve(this.curve, times * BLOCK);
    this.over = new RATES[times](this.mix, BLOCK);
    this.lateFrames = this.over.lateFrames;
  }

  copyFrom(other: Side): void {
    this.bell.copyFrom(other.bell);
    this.bellBack.copyFrom(other.bellBack);
    this.tilt.copyFrom(other.tilt);
    this.tiltBack.copyFrom(other.tiltBack);
    this.over.copyFrom(other.over);
    this.mix.copyFrom(other.mix);
    this.mean.set(other.mean);
  }

  /** `front` and `back` are what emphasises and what takes it back, by a tilt or a bell. */
  process(
    samples: Float64Array,
    from: number,
    to: number,
    told: Float64Array,
    front: Float64Array,
    back: Float64Array,
    tilts: boolean,
    against: Float64Array | null,
  ): void {
    const emphasised = told[EMPHASIS] !== 0;
    if (emphasised) {
      if (tilts) this.tilt.process(samples, from, to, front);
      else this.bell.process(samples, from, to, front);
    }
    let gain = told[GAIN_0];
    let bias = told[BIAS_0];
    const step = (told[GAIN_1] - gain) / (to - from);
    const biasStep = (told[BIAS_1] - bias) / (to - from);
    if (against) for (let i = from; i < to; i++) samples[i] -= against[i];
    for (let i = from; i < to; i++) {
      gain += step;
      bias += biasStep;
      samples[i] = gain * samples[i] + bias;
    }
    this.over.process(samples, from, to);
    this.centre(samples, from, to, told);
    if (!emphasised) return;
    if (tilts) this.tiltBack.process(samples, from, to, back);
    else this.bellBack.process(samples, from, to, back);
  }

  /** Takes off what the bias alone gives, and the running mean where the curve is not even-handed. */
  private centre(samples: Float64Array, from: number, to: number, told: Float64Array): void {
    const rest = told[REST];
    const share = told[MEAN_SHARE];
    // An even-handed curve has no mean of its own, and none is followed.
    if (share === 0 && rest === 0) return;
    const rate = told[MEAN_RATE];
    let mean = this.mean[0];
    for (let i = from; i < to; i++) {
      const y = samples[i] - rest;
      mean += rate * (y - mean);
      samples[i] = y - share * mean;
    }
    this.mean[0] = mean < 1e-18 && mean > -1e-18 ? 0 : mean;
  }
}

class ShaperRunner implements UnitRunner<Shaper> {
  readonly lateFrames: number;
  private readonly left: Side;
  private readonly right: Side;
  private readonly sides: readonly Side[];
  private readonly told = new Float64Array(TOLD);
  /** Of emphasis and of what takes it back: warped frequency twice, damping and amplitude; or tilt's own. */
  private readonly front = new Float64Array(4);
  private readonly back = new Float64Array(4);
  private readonly tilts: boolean;
  private readonly against: Float64Array | null;
  private readonly after: AfterCurve | null;
  private begun = false;

  constructor(
    unit: Shaper,
    private readonly start: UnitStart,
    private readonly spec: ShaperSpec<string, Record<string, SchemaNode>>,
    other: string | null,
  ) {
    const times = spec.times ?? 4;
    this.left = new Side(spec.curve(start, 0), times);
    this.right = start.stereo ? new Side(spec.curve(start, 1), times) : this.left;
    this.sides = start.stereo ? [this.left, this.right] : [this.left];
    this.after = spec.after?.(start) ?? null;
    this.lateFrames = this.left.lateFrames;
    this.tilts = unit.emphasis === 'tilt';
    this.against = other === null ? null : start.hears.side(other);
    this.told[MEAN_RATE] = 1 - Math.exp((-2 * Math.PI * MEAN_HZ) / start.sampleRateHz);
  }

  copyFrom(other: ShaperRunner): void {
    this.left.copyFrom(other.left);
    if (this.right !== this.left) this.right.copyFrom(other.right);
    if (other.after) this.after?.copyFrom(other.after);
    this.told.set(other.told);
    this.begun = other.begun;
  }

  comeRound(): void {
    for (let side = 0; side < this.sides.length; side++) this.sides[side].curve.comeRound?.();
  }

  private tell(numbers: Float64Array, at: number): void {
    const { told, spec } = this;
    const gain = dbToGain(numbers[at + NUMBER.driveDb]);
    const biasPct = numbers[at + NUMBER.biasPct];
    told[GAIN_0] = this.begun ? told[GAIN_1] : gain;
    told[BIAS_0] = this.begun ? told[BIAS_1] : biasPct / 100;
    told[GAIN_1] = gain;
    told[BIAS_1] = biasPct / 100;
    this.begun = true;
    const wet = spec.against ? 1 : numbers[at + UNIT_WET] / 100;
    for (let side = 0; side < this.sides.length; side++) {
      const { form } = this.sides[side].mix;
      form[MIX_WET] = wet;
      form[MIX_GAIN] = gain;
      form[MIX_BIAS] = told[BIAS_1];
    }
    const own = at + SHAPER_NUMBERS;
    for (let side = 0; side < this.sides.length; side++) this.sides[side].curve.take?.(numbers, own);
    const leans = (biasPct < 0 ? -biasPct : biasPct) + (spec.leans ? spec.leans(numbers, own) : 0);
    // What is dry has no mean to take off.
    const uneven = leans > MEAN_FROM_PCT ? 1 : leans / MEAN_FROM_PCT;
    told[MEAN_SHARE] = wet > MEAN_FROM_PCT / 100 ? uneven : (uneven * wet * 100) / MEAN_FROM_PCT;
    told[REST] = biasPct === 0 ? 0 : wet * this.left.curve.at(told[BIAS_1]);
    told[EMPHASIS] = numbers[at + NUMBER.emphasisDb];
    if (told[EMPHASIS] !== 0) this.emphasise(numbers[at + NUMBER.emphasisHz]);
  }

  private emphasise(hz: number): void {
    const { told, front, back, tilts, start } = this;
    const g = prewarp(hz, start.sampleRateHz);
    const db = told[EMPHASIS];
    front[0] = back[0] = g;
    if (tilts) {
      front[1] = dbToGain(db / 2);
      back[1] = 1 / front[1];
      return;
    }
    front[1] = back[1] = g;
    front[2] = back[2] = EMPHASIS_DAMPING;
    front[3] = dbToGain(db / 2);
    back[3] = 1 / front[3];
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { told, front, back, tilts, against } = this;
    this.tell(numbers, at);
    this.left.process(left, from, to, told, front, back, tilts, against);
    if (this.right !== this.left) this.right.process(right, from, to, told, front, back, tilts, against);
    this.after?.process(left, right, from, to, numbers, at);
  }
}

/**
 * A kind of shaper: drive and bias into a curve that runs oversampled in antiderivative form (see `Curve`), a
 * bell or a tilt in front of it that is taken back behind it. Against the Fourier coefficients of their curves,
 * and for what folds back, they are measured in the tests.
 */
export function shaperKind<
  const K extends string,
  const F extends Record<string, SchemaNode> = Record<never, never>,
>(spec: ShaperSpec<K, F>) {
  const shape = object({ ...shaperFields(spec.kind), ...(spec.fields ?? ({} as F)) });
  // Alike for all of a kind: found when it is first asked for.
  let late: number | undefined;
  const other = (unit: Shaper): string | null => {
    if (!spec.against) return null;
    const name = (unit as unknown as Record<string, string>)[spec.against];
    return name === LEVEL_ALONE ? null : name;
  };
  return unitKind({
    shape,
    family: 'shapers',
    label: spec.label,
    purpose: spec.purpose,
    run: (unit, start) =>
      new ShaperRunner(
        unit as unknown as Shaper,
        start,
        spec as unknown as ShaperSpec<string, Record<string, SchemaNode>>,
        other(unit as unknown as Shaper),
      ) as unknown as UnitRunner<Infer<typeof shape>>,
    lateFrames: () =>
      (late ??= new Side(spec.curve({ sampleRateHz: 48000, seed: 0 }, 0), spec.times ?? 4).lateFrames),
    mixes: !spec.against,
    ...(spec.chance && {
      chance: {
        stage: 'rough' as const,
        weight: spec.chance.weight,
        within: {
          driveDb: [4, 18],
          emphasisDb: [-6, 12],
          emphasisHz: [300, 3000],
          wetPct: [40, 100],
          ...spec.chance.within,
        },
      },
    }),
    ...(spec.against && {
      hears: (unit: Infer<typeof shape>) => other(unit as unknown as Shaper),
      hearsIn: spec.against,
    }),
    idle: (unit) => ((unit as unknown as Shaper).emphasisDb === 0 ? ['emphasisHz'] : []),
    curve: (unit) => {
      const curve = spec.curve({ sampleRateHz: 48000, seed: 0 }, 0);
      const { driveDb, biasPct } = unit as unknown as Shaper;
      curve.take?.(Float64Array.from(ownNumbers(spec.fields ?? {}, unit)), 0);
      const gain = dbToGain(driveDb);
      const rest = curve.at(biasPct / 100);
      return (x) => curve.at(gain * x + biasPct / 100) - rest;
    },
  });
}

/** The values of the fields that movers may reach, in order. */
const ownNumbers = (fields: Record<string, SchemaNode>, unit: object): number[] =>
  Object.entries(fields).flatMap(([key, node]) =>
    node.kind === 'number' && node.movable ? [(unit as Record<string, number>)[key]] : [],
  );
