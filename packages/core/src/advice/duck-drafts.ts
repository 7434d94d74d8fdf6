import type { Assets } from '../engine/index.js';
import { draftOf, DUCK_HARD, duckChange, shortenChange, type Change } from './drafts.js';
import { duckSteps, unduckedOf } from './duck-search.js';
import { roomForKickMs } from './shorten.js';
import { quietly, type FitProgress, type Trials } from './trials.js';
import { changedBy } from './variants.js';

/** Ducking that holds the bass down for longer than this share of the time is offered with a shorter kick. */
const DOWN_TOO_LONG = 0.5;

/**
 * Ducking by the kick's level and by its beats, each as gentle as it may be, after other changes; what was
 * found of it.
 */
function* duckTrials(
  trials: Trials,
  before: readonly Change[],
  done: number,
  assets?: Assets,
): Generator<
  FitProgress,
  { readonly some: boolean; readonly long: boolean; readonly gentlest: Change | null }
> {
  const sound = changedBy(trials.document, before);
  const unducked = unduckedOf(sound, assets);
  yield { done, soFar: null };
  let long = false;
  let gentlest: { readonly change: Change; readonly lowsDb: number } | null = null;
  for (const by of ['level', 'beats'] as const) {
    const found = yield* quietly(duckSteps(sound, by, unducked, assets), done);
    if (!found) continue;
    const change = duckChange(found.document);
    const {
      after,
      takes: { lowsDb },
    } = yield* trials.measure(draftOf(trials.document, [...before, change]), done);
    if (after.adds && (!gentlest || lowsDb < gentlest.lowsDb)) gentlest = { change, lowsDb };
    long ||= found.downShare > DOWN_TOO_LONG;
  }
  return { some: gentlest !== null, long, gentlest: gentlest?.change ?? null };
}

/**
 * The ducking of a sound, also with its kick on the fifth or the octave, and where it holds the bass down for
 * long with a kick that is shorter; hard only where neither does.
 */
export function* duckDrafts(
  trials: Trials,
  consonant: readonly Change[],
  done: number,
  assets?: Assets,
): Generator<FitProgress, void> {
  const { document, kick } = trials;
  const { some, long, gentlest } = yield* duckTrials(trials, [], done, assets);
  if (gentlest)
    yield* trials.measureAll(
      consonant.map((tuning) => draftOf(document, [tuning, gentlest])),
      done,
      done,
    );
  const shorter = long || !some ? shortenChange(document, kick.lengthS, roomForKickMs(document)) : null;
  const shortened = shorter && (yield* duckTrials(trials, [shorter], done, assets)).some;
  if (!some && !shortened && !document.duck.hard) yield* trials.measure(draftOf(document, [DUCK_HARD]), done);
}
