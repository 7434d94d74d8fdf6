import type { SoundDocument } from '../document/index.js';
import type { LayerCache } from '../engine/index.js';
import { type FigureId, type JudgedFigure, type NoteOnSystems, type Verdict } from '../figures/index.js';
import { spectralDistanceDb } from './distance.js';
import { mendKindFor } from './kinds/index.js';
import {
  figureOf,
  quickStateSteps,
  wholeStateSteps,
  type MeasureOptions,
  type SoundState,
} from './base/sound-state.js';
import type { MendKind, Way } from './base/way.js';

/** A figure before and after a mend, as it is told. */
export interface Changed {
  readonly id: FigureId;
  readonly before: JudgedFigure;
  readonly after: JudgedFigure;
}

/** A change that is offered: what it is, and what it does to the figures, found by rendering it. */
export interface Mend {
  /** The figure that it is for, and the way with it: `heard-open-body`. */
  readonly id: string;
  readonly figure: FigureId;
  readonly title: string;
  /** The sound with it. */
  readonly document: SoundDocument;
  /** The figure that it is for, before and after. */
  readonly gains: Changed;
  /** Whether that figure holds with it. */
  readonly holds: boolean;
  /** Figures that held and do so no longer, or that fall short and were only to be watched. */
  readonly harms: readonly Changed[];
  /** What a listener gets of each note with it, on each system. */
  readonly heard: readonly NoteOnSystems[];
  /** How far the sound's spectrum goes, dB. */
  readonly distanceDb: number;
  /** What it gives less what it costs: the greater the better. */
  readonly worth: number;
}

/** What may be done about the figures of a sound that do not hold. */
export interface Mends {
  /** What is offered, best first; of one figure three at the most. */
  readonly mends: readonly Mend[];
  /** Figures that nothing mends, and what stands against it. */
  readonly unmended: readonly { readonly id: FigureId; readonly against: string }[];
}

export interface MendProgress {
  readonly done: number;
  readonly soFar: Mends | null;
}

/** Of one figure no more than these are offered. */
const MOST_EACH = 3;
/** Steps in which an amount is found: to a thirty-second of the whole. */
const HALVINGS = 5;
/** An amount that only just holds is turned up by this, so that it holds when all of it is measured. */
const A_LITTLE = 1 / 48;
/** What a figure counts at the most, in shares of what is only watched; and what one costs by how it stands then. */
const MOST_MISS = 2;
const HARMED: Readonly<Record<Verdict, number>> = { holds: 0, unknown: 0, watch: 0.5, 'falls short': 1.5 };
/** A figure that misses by so much more, as a share of what is only watched, is harmed in full. */
const FELT_MISS = 0.25;
/** What a decibel of spectral distance costs against a figure that goes from falling short to holding, which gives 1 or more. */
const PER_DISTANCE_DB = 0.04;
/** Rate of the looks of a search: what is measured then is measured whole, at the full rate. */
const QUICK_RATE_HZ = 24000;
/** What does not hold when it is measured whole is turned up by this once more. */
const ONCE_MORE = 1 / 12;
/** Less than this is not offered, unless the figure holds with it. */
const LEAST_WORTH = 0.08;

const ORDER: Readonly<Record<Verdict, number>> = { holds: 0, unknown: 0, watch: 1, 'falls short': 2 };
const missing = ({ miss, verdict }: JudgedFigure) =>
  verdict === 'holds' || verdict === 'unknown' ? 0 : Math.min(MOST_MISS, Math.max(0.1, miss ?? 1));
/** Whether a figure stands worse by its verdict than it did. */
const isHarmed = (before: JudgedFigure, after: JudgedFigure) => ORDER[after.verdict] > ORDER[before.verdict];

/** What it costs that a figure is harmed: little where it only just is. */
function costOf({ before, after }: Changed): number {
  const by = (after.miss ?? Infinity) - (before.miss ?? -Infinity);
  return HARMED[after.verdict] * Math.min(1, Math.max(0, by) / FELT_MISS);
}

/** Figures that something can be done about here: those that do not hold and that a kind of mend is for. */
export const toMend = (state: SoundState): JudgedFigure[] =>
  state.figures.filter(
    ({ id, verdict }) => (verdict === 'watch' || verdict === 'falls short') && mendKindFor(id) !== undefined,
  );

/** What a sound is with a change, against what it was. */
export function mendOf(
  figure: FigureId,
  id: string,
  title: string,
  before: SoundState,
  after: SoundState,
): Mend {
  const pairs = before.figures.map((was): Changed => ({
    id: was.id,
    before: was,
    after: figureOf(after, was.id),
  }));
  const harms = pairs.filter((pair) => isHarmed(pair.before, pair.after));
  const gains = pairs.find((pair) => pair.id === figure)!;
  const given = pairs.reduce((sum, pair) => sum + missing(pair.before) - missing(pair.after), 0);
  const distanceDb = spectralDistanceDb(before.pass.tone.thirdsDb, after.pass.tone.thirdsDb);
  return {
    id: `${figure}-${id}`,
    figure,
    title,
    document: after.document,
    gains,
    holds: gains.after.verdict === 'holds',
    harms,
    heard: after.pass.heard,
    distanceDb,
    worth: given - harms.reduce((sum, pair) => sum + costOf(pair), 0) - PER_DISTANCE_DB * distanceDb,
  };
}

/** The least amount of a way with which a figure holds; where none does, the one with which it misses least, or null. */
function* leastAmount(
  way: Way,
  figure: JudgedFigure,
  options: MeasureOptions,
): Generator<number, number | null> {
  const look = function* (amount: number): Generator<number, JudgedFigure> {
    return figureOf(yield* quickStateSteps(way.apply(amount), options), figure.id);
  };
  const holds = ({ verdict }: JudgedFigure) => verdict === 'holds';
  const most = yield* look(1);
  if (!holds(most)) {
    const half = yield* look(0.5);
    // What is best in the middle is turned up to there; a level that goes past its target is one.
    if (!holds(half)) {
      const best = missing(half) < missing(most) ? { amount: 0.5, at: half } : { amount: 1, at: most };
      return missing(best.at) < missing(figure) - 0.05 ? best.amount : null;
    }
    return yield* between(0, 0.5, look, holds);
  }
  return yield* between(0, 1, look, holds);
}

/** The least amount that holds between one that does not and one that does. */
function* between(
  from: number,
  to: number,
  look: (amount: number) => Generator<number, JudgedFigure>,
  holds: (figure: JudgedFigure) => boolean,
): Generator<number, number> {
  let [low, high] = [from, to];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2;
    if (holds(yield* look(middle))) high = middle;
    else low = middle;
  }
  return Math.min(to, high + A_LITTLE);
}

/** Quick looks that a way takes at the most. */
const LOOKS = HALVINGS + 3;

/** A way at an amount, rendered and measured as a whole; where it only just does not hold, turned up a little once. */
function* measuredMend(
  state: SoundState,
  figure: JudgedFigure,
  way: Way,
  amount: number,
  options: MeasureOptions,
): Generator<number, Mend> {
  const measure = function* (at: number): Generator<number, Mend> {
    const after = yield* wholeStateSteps(way.apply(at), options);
    return mendOf(figure.id, way.id, way.title(at), state, after);
  };
  const mend = yield* measure(amount);
  if (mend.holds || amount >= 1) return mend;
  const further = yield* measure(Math.min(1, amount + ONCE_MORE));
  return missing(further.gains.after) < missing(mend.gains.after) ? further : mend;
}

/** Everything that may be done about one figure, each rendered and measured as a whole. */
function* mendsOf(
  state: SoundState,
  figure: JudgedFigure,
  kind: MendKind,
  options: MeasureOptions,
): Generator<number, Mend[]> {
  const ways = kind.ways(state, figure);
  const found: Mend[] = [];
  const cache: LayerCache = new Map();
  for (const [w, way] of ways.entries()) {
    const amount = yield* counted(
      leastAmount(way, figure, { ...options, sampleRateHz: QUICK_RATE_HZ, cache }),
      (share) => (w + 0.8 * share) / ways.length,
    );
    if (amount === null) continue;
    const mend = yield* counted(
      measuredMend(state, figure, way, amount, options),
      (share) => (w + 0.8 + 0.2 * share) / ways.length,
    );
    if (missing(mend.gains.after) < missing(figure)) found.push(mend);
  }
  // Those that hold first, and of these the ones that change the sound least.
  return found.sort(
    (a, b) =>
      Number(b.holds) - Number(a.holds) || a.harms.length - b.harms.length || a.distanceDb - b.distanceDb,
  );
}

/** Runs looks one after another, of which each tells its share anew, and tells how far all of them are: never backwards. */
function* counted<T>(steps: Generator<number, T>, at: (share: number) => number): Generator<number, T> {
  let looks = 0;
  let last = 0;
  for (let step = steps.next(); ; step = steps.next()) {
    if (step.done) return step.value;
    if (step.value < last) looks++;
    last = step.value;
    yield at(Math.min(1, (looks + last) / LOOKS));
  }
}

/** The best of each figure, those that give most first. */
const ranked = (found: readonly Mend[]): Mend[] =>
  [...found].filter(({ worth, holds }) => holds || worth >= LEAST_WORTH).sort((a, b) => b.worth - a.worth);

/**
 * Looks for what may be done about every figure of a sound that does not hold. Every proposal is rendered and measured before
 * it is offered, each with the least of it that the figure needs; the best three of a figure are offered, ranked by what they
 * give less what they cost. Yields the share done, and what is offered so far whenever that changes.
 */
export function* mendSteps(state: SoundState, options: MeasureOptions): Generator<MendProgress, Mends> {
  const wanted = toMend(state);
  const found: Mend[] = [];
  const unmended: { id: FigureId; against: string }[] = [];
  const soFar = (): Mends => ({ mends: ranked(found), unmended: [...unmended] });
  for (const [f, figure] of wanted.entries()) {
    const kind = mendKindFor(figure.id)!;
    const steps = mendsOf(state, figure, kind, options);
    let step = steps.next();
    while (!step.done) {
      yield { done: (f + step.value) / wanted.length, soFar: null };
      step = steps.next();
    }
    const best = step.value.slice(0, MOST_EACH);
    found.push(...best);
    if (!best.some(({ holds }) => holds))
      unmended.push({ id: figure.id, against: kind.against(state, figure) });
    yield { done: (f + 1) / wanted.length, soFar: soFar() };
  }
  return soFar();
}
