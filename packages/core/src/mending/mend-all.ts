import type { SoundDocument } from '../document/index.js';
import type { FigureId } from '../figures/index.js';
import { mendKindFor } from './kinds/index.js';
import { mendSteps, toMend, type Mend, type MendProgress } from './mends.js';
import { wholeStateSteps, type MeasureOptions, type SoundState } from './base/sound-state.js';

/** What was done to mend a sound, and what could not be. */
export interface Mended {
  readonly before: SoundState;
  readonly after: SoundState;
  /** What was applied, in order. */
  readonly applied: readonly Mend[];
  /** Figures that still do not hold, and what stands against it. */
  readonly left: readonly { readonly id: FigureId; readonly against: string }[];
}

/** Rounds in which the best is applied and all is looked at anew. */
const MOST_ROUNDS = 6;

const NO_KIND = 'Nothing in Sounding mends it: see the station that it belongs to.';
const ONLY_HARMING = 'What would mend it makes another figure worse that holds now.';

/**
 * Mends what does not hold, in steps that yield the share done: the best proposal that harms nothing is applied, all is measured
 * anew, and so on. No figure that held is ever made worse by its verdict.
 */
export function* mendAllSteps(
  document: SoundDocument,
  options: MeasureOptions,
): Generator<Pick<MendProgress, 'done'>, Mended> {
  const before = yield* measured(document, options);
  const applied: Mend[] = [];
  let state = before;
  let against = new Map<FigureId, string>();
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const wanted = toMend(state).length;
    if (wanted === 0) break;
    const found = yield* sharedOut(mendSteps(state, options), round);
    against = new Map(found.unmended.map(({ id, against: why }) => [id, why]));
    const best = found.mends.find(({ harms }) => harms.length === 0);
    for (const { figure, harms } of found.mends)
      if (harms.length > 0 && !against.has(figure)) against.set(figure, ONLY_HARMING);
    if (!best) break;
    applied.push(best);
    state = yield* measured(best.document, options);
  }
  const left = state.figures
    .filter(({ verdict }) => verdict === 'watch' || verdict === 'falls short')
    .map(({ id }) => ({ id, against: mendKindFor(id) ? (against.get(id) ?? ONLY_HARMING) : NO_KIND }));
  return { before, after: state, applied, left };
}

function* measured(
  document: SoundDocument,
  options: MeasureOptions,
): Generator<Pick<MendProgress, 'done'>, SoundState> {
  const steps = wholeStateSteps(document, options);
  for (let step = steps.next(); ; step = steps.next()) {
    if (step.done) return step.value;
    yield { done: 0.02 * step.value };
  }
}

/** Rounds take less and less of what is left: how many there will be is not known. */
function* sharedOut<T>(
  steps: Generator<MendProgress, T>,
  round: number,
): Generator<Pick<MendProgress, 'done'>, T> {
  const from = 1 - 0.5 ** round;
  for (let step = steps.next(); ; step = steps.next()) {
    if (step.done) return step.value;
    yield { done: from + 0.5 ** (round + 1) * step.value.done };
  }
}
