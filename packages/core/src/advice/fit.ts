import type { SoundDocument } from '../document/index.js';
import { runsFree, type Assets, type LayerCache } from '../engine/index.js';
import { kickFigures, lineLock, type KickFigures, type LineLock, type NoteLock } from '../figures/index.js';
import { toEnd } from '../units/index.js';
import { draftOf, DUCK_HARD, duckChange, levelChange, octaveChange, SHARED, shortenChange, type Change } from './drafts.js';
import { duckSteps, unduckedOf } from './duck-search.js';
import { againstWords, hitsWords, whyWords } from './fit-words.js';
import { measureLineSteps, type LineLows, type MeasuredLine } from './measured-line.js';
import type { Draft, Proposal } from './proposal.js';
import { ranked, settles } from './ranking.js';
import { rosesOf, type LineRoses } from './rose.js';
import { searchSteps, type Candidate } from './search.js';
import { roomForKickMs } from './shorten.js';
import { MOST_LOWS_DB, takesOf, takesWords } from './takes.js';
import { turnedLowsSteps } from './turned-lows.js';
import { changedBy } from './variants.js';

/** What is offered so that bass and kick agree, best first, and how they stand before. */
export interface Fit {
  readonly before: LineLock;
  /** How they stand and why, in words. */
  readonly why: string;
  /** What is offered, best first. */
  readonly proposals: readonly Proposal[];
  /** All that was rendered, what makes it worse too. */
  readonly tried: readonly Proposal[];
  /** What stands against an answer, and what to change by hand, where none of them makes every hit add or keeps it apart for less than 6 dB of the lows; else null. */
  readonly against: string | null;
}

/** How far a fit has come: the share done, and what is offered so far, which changes only when something was measured. */
export interface FitProgress { readonly done: number; readonly soFar: Fit | null }

export interface FitOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  /** Level of the bass over the kick at its worst note, dB. */
  readonly bassToKickDb?: number | null;
  /** The line where it is measured by now. */
  readonly known?: LineLows;
}

/** Most drafts by phase and pitch that are rendered: the best by their roses, and those of the sound as it is. */
const MOST_SEARCHED = 14;
/**
 * Rate at which proposals are rendered, from the last moment at which no note sounds: what stands below Lock's frequency is within 0.03 dB of a whole render at 48 kHz on the demo's sounds, and there four times
 * sooner.
 */
const RATE_HZ = 24000;
/** Shares of the work that are done when the first search, its proposals, those of a moved line, and those by ducking are. */
const SEARCHED = 0.25;
const MEASURED = 0.55;
const MOVED = 0.7;
const DUCKED = 0.9;
/** Ducking that holds the bass down for longer than this share of the time is offered with a shorter kick. */
const DOWN_TOO_LONG = 0.5;
/** A kick is shortened to this share by itself, where it lasts as long as this. */
const SHORTER = 0.6;
const WORTH_SHORTENING_S = 0.12;

/** The roses of a measured line, in steps: by rendering the turn, or by a constant rotation where that cannot be. */
export function* roseSteps(document: SoundDocument, line: LineLows, assets?: Assets): Generator<void, LineRoses> {
  return rosesOf(line, yield* turnedLowsSteps(document, line.locks, assets));
}

/** How a line stands for being bettered: two that beat or are kept apart count as neither gained nor lost. */
function standing({ worstSumGainDb, keptApart, oneWave, beating }: LineLock): number | null {
  if (worstSumGainDb === null) return keptApart + oneWave + beating > 0 ? 0 : null;
  return beating > 0 ? Math.min(0, worstSumGainDb) : worstSumGainDb;
}

function gainOf(before: LineLock, after: LineLock): number {
  const [was, is] = [standing(before), standing(after)];
  return was === null || is === null ? 0 : is - was;
}

/** Renders and measures drafts of one sound, and gathers what is found. */
class Trials {
  readonly tried: Proposal[] = [];
  readonly kick: KickFigures;
  private readonly why: string;
  /** Layers as they are, for changes that leave them so. */
  private readonly cache: LayerCache = new Map();

  constructor(readonly document: SoundDocument, readonly before: LineLock, locks: readonly NoteLock[], private readonly base: MeasuredLine, private readonly options: FitOptions) {
    this.kick = kickFigures(document, options.sampleRateHz, options.assets);
    this.why = whyWords(document, locks, before, this.kick.tail);
  }

  /** What is offered by now. */
  fit(ended: boolean): Fit {
    const { before, tried, document } = this;
    const proposals = ranked(before, tried);
    const answered = before.adds || before.meetings === 0 || proposals.some(({ after, takes }) => settles(after) && takes.lowsDb < MOST_LOWS_DB);
    return { before, why: this.why, proposals, tried: [...tried], against: ended && !answered ? againstWords(this.kick.tail, runsFree(document)) : null };
  }

  *measure({ steps, title, costs, document }: Draft, done: number): Generator<FitProgress, Proposal> {
    const { sampleRateHz, assets } = this.options;
    const same = document.layers === this.document.layers && document.line === this.document.line && document.lock === this.document.lock;
    const line = yield* quietly(measureLineSteps(document, { ...rendering(document, assets), cache: same ? this.cache : undefined }), done);
    const after = lineLock(document, line.locks);
    const kick = document.kick === this.document.kick ? this.kick : kickFigures(document, sampleRateHz, assets);
    const takes = takesOf(this.document, document, this.base, line, { before: this.kick, after: kick });
    const proposal = { steps, id: steps.join('-'), title, document, costText: [...costs, ...takesWords(takes)].join('; '), takes, after, gainDb: gainOf(this.before, after), says: hitsWords(after), low: { kick: line.kick, bass: line.bass } };
    this.tried.push(proposal);
    yield { done, soFar: this.fit(false) };
    return proposal;
  }

  /** Measures drafts one after the other, from one share of the work to another. */
  *measureAll(drafts: readonly Draft[], from: number, to: number): Generator<FitProgress, void> {
    for (let d = 0; d < drafts.length; d++) yield* this.measure(drafts[d], from + ((to - from) * d) / drafts.length);
  }
}

/** How a proposal is rendered; what runs free is run for a whole round before. */
const rendering = (document: SoundDocument, assets?: Assets) => ({ sampleRateHz: RATE_HZ, assets, brief: !runsFree(document) });

/** Steps that tell nothing but that they go on. */
function* quietly<T>(steps: Generator<unknown, T>, done: number): Generator<FitProgress, T> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    yield { done, soFar: null };
  }
}

/** Ducking by the kick's level and by its beats, each as gentle as it may be, after other changes; what was found of it. */
function* duckTrials(trials: Trials, before: readonly Change[], assets?: Assets): Generator<FitProgress, { readonly some: boolean; readonly long: boolean; readonly gentlest: Change | null }> {
  const sound = changedBy(trials.document, before);
  const unducked = unduckedOf(sound, assets);
  yield { done: MOVED, soFar: null };
  let long = false;
  let gentlest: { readonly change: Change; readonly lowsDb: number } | null = null;
  for (const by of ['level', 'beats'] as const) {
    const found = yield* quietly(duckSteps(sound, by, unducked, assets), MOVED);
    if (!found) continue;
    const change = duckChange(found.document);
    const { after, takes: { lowsDb } } = yield* trials.measure(draftOf(trials.document, [...before, change]), MOVED);
    if (after.adds && (!gentlest || lowsDb < gentlest.lowsDb)) gentlest = { change, lowsDb };
    long ||= found.downShare > DOWN_TOO_LONG;
  }
  return { some: gentlest !== null, long, gentlest: gentlest?.change ?? null };
}

/** The ducking of a sound, also with its kick on the fifth or the octave, and where it holds the bass down for long with a kick that is shorter; hard only where neither does. */
function* duckDrafts(trials: Trials, consonant: readonly Change[], assets?: Assets): Generator<FitProgress, void> {
  const { document, kick } = trials;
  const { some, long, gentlest } = yield* duckTrials(trials, [], assets);
  if (gentlest) yield* trials.measureAll(consonant.map((tuning) => draftOf(document, [tuning, gentlest])), MOVED, MOVED);
  const shorter = long || !some ? shortenChange(document, kick.lengthS, roomForKickMs(document)) : null;
  const shortened = shorter && (yield* duckTrials(trials, [shorter], assets)).some;
  if (!some && !shortened && !document.duck.hard) yield* trials.measure(draftOf(document, [DUCK_HARD]), MOVED);
}

const isChange = (change: Change | null): change is Change => change !== null;
/** The best drafts by their roses, and those of one step, which are told at their presses. */
const wantedOf = (candidates: readonly Candidate[]) => candidates.filter(({ draft: { steps } }, i) => i < MOST_SEARCHED || steps.length === 1).map(({ draft }) => draft);

/**
 * Everything that may make bass and kick agree, each rendered and measured, ranked by what it takes beside what it gives. It yields within renders, so that a host can
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
    const { candidates, consonant, further } = yield* quietly(searchSteps(document, trials.kick.tail, sampleRateHz, assets), SEARCHED / 2);
    yield* trials.measureAll(wantedOf(candidates), SEARCHED, MEASURED);
    yield* trials.measureAll(wantedOf(yield* quietly(further(), MEASURED)), MEASURED, MOVED);
    if (!before.adds) yield* duckDrafts(trials, consonant, assets);
  }
  const { lengthS } = trials.kick;
  const shorter = lengthS !== null && lengthS >= WORTH_SHORTENING_S ? shortenChange(document, lengthS, 1000 * SHORTER * lengthS) : null;
  const others = safe || before.verdict === 'holds' ? [] : [shorter, document.kick.shared ? null : SHARED, octaveChange(document)];
  yield* trials.measureAll([...others, levelChange(document, bassToKickDb)].filter(isChange).map((change) => draftOf(document, [change])), DUCKED, 1);
  return trials.fit(true);
}

/** Finds what may be offered at once; see `fitSteps`. */
export function fitOf(document: SoundDocument, options: FitOptions): Fit {
  return toEnd(fitSteps(document, options));
}
