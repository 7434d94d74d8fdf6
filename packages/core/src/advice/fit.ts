import type { SoundDocument } from '../document/index.js';
import type { Assets } from '../engine/index.js';
import { lineLock } from '../figures/index.js';
import { toEnd } from '../units/index.js';
import { draftOf, levelChange, octaveChange, SHARED, shortenChange, type Change } from './drafts.js';
import { duckDrafts } from './duck-drafts.js';
import { measureLineSteps, type LineLows } from './measured-line.js';
import { searchSteps, type Candidate } from './search.js';
import { quietly, rendering, Trials, type Fit, type FitProgress } from './trials.js';

export interface FitOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  /** Level of the bass over the kick at its worst note, dB. */
  readonly bassToKickDb?: number | null;
  /** The line where it is measured by now. */
  readonly known?: LineLows;
}

/**
 * Most drafts by phase and pitch that are rendered: the best by their roses, and those of the sound as it is.
 */
const MOST_SEARCHED = 14;
/**
 * Shares of the work that are done when the first search, its proposals, those of a moved line, and those by
 * ducking are.
 */
const SEARCHED = 0.25;
const MEASURED = 0.55;
const MOVED = 0.7;
const DUCKED = 0.9;
/** A kick is shortened to this share by itself, where it lasts as long as this. */
const SHORTER = 0.6;
const WORTH_SHORTENING_S = 0.12;

const isChange = (change: Change | null): change is Change => change !== null;
/** The best drafts by their roses, and those of one step, which are told at their presses. */
const wantedOf = (candidates: readonly Candidate[]) =>
  candidates
    .filter(({ draft: { steps } }, i) => i < MOST_SEARCHED || steps.length === 1)
    .map(({ draft }) => draft);

/**
 * Everything that may make bass and kick agree, each rendered and measured, ranked by what it takes beside
 * what it gives. It yields within renders, so that a host can
 * stop, and what is offered so far after each.
 */
export function* fitSteps(document: SoundDocument, options: FitOptions): Generator<FitProgress, Fit> {
  const { sampleRateHz, assets, bassToKickDb = null, known } = options;
  const base = yield* quietly(measureLineSteps(document, rendering(document, assets)), 0);
  const { locks } = known ?? base;
  const before = lineLock(document, locks);
  const trials = new Trials(document, before, locks, base, options);
  if (before.meetings === 0) return trials.fit(true);
  // Where no note can cancel, nothing but the level is left to be bettered.
  const safe = before.keptApart + before.oneWave === before.meetings;
  if (!safe) {
    const { candidates, consonant, further } = yield* quietly(
      searchSteps(document, trials.kick.tail, sampleRateHz, assets),
      SEARCHED / 2,
    );
    yield* trials.measureAll(wantedOf(candidates), SEARCHED, MEASURED);
    yield* trials.measureAll(wantedOf(yield* quietly(further(), MEASURED)), MEASURED, MOVED);
    if (!before.adds) yield* duckDrafts(trials, consonant, MOVED, assets);
  }
  const { lengthS } = trials.kick;
  const shorter =
    lengthS !== null && lengthS >= WORTH_SHORTENING_S
      ? shortenChange(document, lengthS, 1000 * SHORTER * lengthS)
      : null;
  const others =
    safe || before.verdict === 'holds'
      ? []
      : [shorter, document.kick.shared ? null : SHARED, octaveChange(document)];
  yield* trials.measureAll(
    [...others, levelChange(document, bassToKickDb)]
      .filter(isChange)
      .map((change) => draftOf(document, [change])),
    DUCKED,
    1,
  );
  return trials.fit(true);
}

/** Finds what may be offered at once; see `fitSteps`. */
export function fitOf(document: SoundDocument, options: FitOptions): Fit {
  return toEnd(fitSteps(document, options));
}
