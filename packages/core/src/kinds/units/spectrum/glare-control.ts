import { Bell, dampingOf, prewarp } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';
import { GLARE_BANDS_HZ, GlareFinder } from './glare-finder.js';

const shape = object({
  ...unitFields('glare control'),
  amountPct: number('Amount', '%', 0, 100, 70, 'How much of what sticks out is taken.', {
    ...movable,
    step: 0.5,
  }),
  speedMs: number('Speed', 'ms', 5, 500, 30, 'How fast it answers; it comes back three times as slowly.', {
    ...log,
    ...movable,
  }),
  mostDb: number('At most', 'dB', 1, 24, 15, 'No more than this is taken anywhere.', {
    ...movable,
    step: 0.5,
  }),
});
const NUMBER = placesOf(shape);

type GlareControl = Infer<typeof shape>;

/** 1/Q of what is taken: two fifths of an octave wide. */
const DAMPING = dampingOf(0.4);
/** How much slower it comes back. */
const BACK = 3;
/** What is found of a peak is its mean over a band: it is taken by so much more. */
const WHOLE = 1.35;
/** Less than this is not taken. */
const LEAST_DB = 0.02;
const BANDS = GLARE_BANDS_HZ.length;

/** Lowers the bands that stick out (`GlareFinder`) by bells that come and go. */
class GlareRunner implements UnitRunner<GlareControl> {
  readonly lateFrames = 0;
  /** What is taken of each band now, in dB. */
  readonly taken = new Float64Array(BANDS);
  private readonly finder: GlareFinder;
  private readonly bells: readonly [readonly Bell[], readonly Bell[]];
  private readonly warped: Float64Array;
  private readonly wanted = new Float64Array(BANDS);
  private readonly form = new Float64Array(4);
  private readonly rate: number;

  constructor(_unit: GlareControl, { sampleRateHz }: UnitStart) {
    this.rate = sampleRateHz;
    this.finder = new GlareFinder(sampleRateHz);
    const bells = () => GLARE_BANDS_HZ.map(() => new Bell());
    this.bells = [bells(), bells()];
    this.warped = Float64Array.from(GLARE_BANDS_HZ, (hz) => prewarp(hz, sampleRateHz));
  }

  copyFrom(other: GlareRunner): void {
    this.finder.copyFrom(other.finder);
    this.taken.set(other.taken);
    this.wanted.set(other.wanted);
    this.bells.forEach((side, s) => {
      side.forEach((bell, b) => {
        bell.copyFrom(other.bells[s][b]);
      });
    });
  }

  comeRound(): void {
    this.finder.restart();
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { finder, taken, wanted, form, bells, warped, rate } = this;
    if (finder.take(left, right, from, to)) this.choose();
    const amount = (WHOLE * numbers[at + NUMBER.amountPct]) / 100;
    const most = numbers[at + NUMBER.mostDb];
    const frames = to - from;
    const fast = 1 - Math.exp((-1000 * frames) / (numbers[at + NUMBER.speedMs] * rate));
    const slow = 1 - Math.exp((-1000 * frames) / (BACK * numbers[at + NUMBER.speedMs] * rate));
    form[2] = DAMPING;
    for (let b = 0; b < BANDS; b++) {
      let goal = amount * wanted[b];
      if (goal > most) goal = most;
      taken[b] += (goal > taken[b] ? fast : slow) * (goal - taken[b]);
      if (taken[b] < LEAST_DB) {
        if (goal === 0) taken[b] = 0;
        continue;
      }
      form[0] = form[1] = warped[b];
      form[3] = Math.exp((-Math.LN10 / 40) * taken[b]);
      bells[0][b].process(left, from, to, form);
      if (right !== left) bells[1][b].process(right, from, to, form);
    }
  }

  /** Of neighbours that stick out the one that does most is lowered. */
  private choose(): void {
    const { wanted, finder } = this;
    const { excess } = finder;
    for (let b = 0; b < BANDS; b++) {
      const before = b > 0 ? excess[b - 1] : 0;
      const after = b < BANDS - 1 ? excess[b + 1] : 0;
      wanted[b] = excess[b] >= before && excess[b] > after ? excess[b] : 0;
    }
  }
}

/** Tames what sticks out. */
export const glareControl = unitKind({
  shape,
  family: 'spectrum',
  label: 'Glare control',
  purpose: 'Finds what sticks out between 1 and 8 kHz and lowers it, only while it does.',
  run: (unit, start) => new GlareRunner(unit, start),
  chance: { stage: 'colour', weight: 1, within: { amountPct: [40, 90] } },
});
