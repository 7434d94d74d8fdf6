import type { SoundDocument } from '../document/index.js';
import { runsFree, type Assets, type LayerCache } from '../engine/index.js';
import { kickFigures, lineLock, type KickFigures, type LineLock } from '../figures/index.js';
import { toEnd } from '../units/index.js';
import { draftOf, DUCK_HARD, duckChange, levelChange, octaveChange, SHARED, shortenChange, type Change } from './drafts.js';
import { duckSteps, unduckedOf } from './duck-search.js';
import { againstWords, hitsWords, whyWords } from './fit-words.js';
import { measureLineSteps, type MeasuredLine } from './measured-line.js';
import type { Draft, Proposal } from './proposal.js';
import { ranked, settles } from './ranking.js';
import { rosesOf, type LineRoses } from './rose.js';
import { searchSteps } from './search.js';
import { roomForKickMs } from './shorten.js';
import { MOST_LOWS_DB, takesOf, takesWords } from './takes.js';
import { turnedLowsSteps } from './turned-lows.js';

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
  readonly known?: MeasuredLine;
}

/** Most drafts by phase and pitch that are rendered: the best by their roses, and those of the sound as it is. */
const MOST_SEARCHED = 14;
/** Shares of the work: the search, and the ducking. */
const SEARCHED = 0.25;
const DUCKED = 0.75;
/** Ducking that holds the bass down for longer than this share of the time is offered with a shorter kick. */
const DOWN_TOO_LONG = 0.5;
/** A kick is shortened to this share by itself, where it lasts as long as this. */
const SHORTER = 0.6;
const WORTH_SHORTENING_S = 0.12;

/** The roses of a measured line, in steps: by rendering the turn, or by a constant rotation where that cannot be. */
export function* roseSteps(document: SoundDocument, line: MeasuredLine, assets?: Assets): Generator<void, LineRoses> {
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
  readonly before: LineLock;
  private readonly kick: KickFigures;
  /** Layers as they are, for changes that leave them so. */
  private readonly cache: LayerCache = new Map();
  private readonly why: string;

  constructor(readonly document: SoundDocument, private readonly line: MeasuredLine, private readonly options: FitOptions) {
    this.before = lineLock(document, line.locks);
    this.kick = kickFigures(document, options.sampleRateHz, options.assets);
    this.why = whyWords(document, line.locks, this.before, this.kick.tail);
  }

  get tail() {
    return this.kick.tail;
  }

  get kickLengthS() {
    return this.kick.lengthS;
  }

  /** What is offered by now. */
  fit(ended: boolean): Fit {
    const proposals = ranked(this.before, this.tried);
    const answered = this.before.adds || proposals.some(({ after, takes }) => settles(after) && takes.lowsDb < MOST_LOWS_DB);
    return { before: this.before, why: this.why, proposals, tried: [...this.tried], against: ended && !answered && this.before.meetings > 0 ? againstWords(this.tail, runsFree(this.document)) : null };
  }

  *measure({ steps, title, costs, document }: Draft, done: number): Generator<FitProgress, void> {
    const { sampleRateHz, assets } = this.options;
    const same = document.layers === this.document.layers && document.line === this.document.line && document.lock === this.document.lock && !document.kick.shared;
    const measuring = measureLineSteps(document, sampleRateHz, assets, same ? this.cache : undefined);
    let step = measuring.next();
    for (; !step.done; step = measuring.next()) yield { done, soFar: null };
    const line = step.value;
    const after = lineLock(document, line.locks);
    const kick = document.kick === this.document.kick ? this.kick : kickFigures(document, sampleRateHz, assets);
    const takes = takesOf(this.document, document, this.line, line, { before: this.kick, after: kick });
    this.tried.push({ steps, id: steps.join('-'), title, document, costText: [...costs, ...takesWords(takes)].join('; '), takes, after, gainDb: gainOf(this.before, after), says: hitsWords(after), low: { kick: line.kick, bass: line.bass } });
    yield { done, soFar: this.fit(false) };
  }
}

/** The ducking of a sound, and where that holds the bass down for long, of one whose kick is shorter; hard only where neither does. */
function* duckDrafts(trials: Trials, consonant: readonly Change[], assets?: Assets): Generator<FitProgress, void> {
  const { document } = trials;
  const found = function* (sound: SoundDocument, before: readonly Change[]): Generator<FitProgress, { some: boolean; long: boolean; gentlest: Change | null }> {
    let some = false;
    let long = false;
    let gentlest: Change | null = null;
    let least = Infinity;
    const unducked = unduckedOf(sound, assets);
    yield { done: DUCKED, soFar: null };
    for (const by of ['level', 'beats'] as const) {
      const steps = duckSteps(sound, by, unducked, assets);
      let step = steps.next();
      for (; !step.done; step = steps.next()) yield { done: DUCKED, soFar: null };
      if (!step.value) continue;
      const change = duckChange(step.value.document);
      yield* trials.measure(draftOf(document, [...before, change]), DUCKED);
      const { after, takes } = trials.tried[trials.tried.length - 1];
      some ||= after.adds;
      if (after.adds && takes.lowsDb < least) {
        least = takes.lowsDb;
        gentlest = change;
      }
      long ||= step.value.downShare > DOWN_TOO_LONG;
    }
    return { some, long, gentlest };
  };
  const { some, long, gentlest } = yield* found(document, []);
  if (gentlest) for (const tuning of consonant) yield* trials.measure(draftOf(document, [tuning, gentlest]), DUCKED);
  let shortened = false;
  if (long || !some) {
    const shorter = shortenChange(document, trials.kickLengthS, roomForKickMs(document));
    if (shorter) shortened = (yield* found(shorter.apply(document), [shorter])).some;
  }
  if (!some && !shortened && !document.duck.hard) yield* trials.measure(draftOf(document, [DUCK_HARD]), DUCKED);
}

const isChange = (change: Change | null): change is Change => change !== null;

/**
 * Everything that may make bass and kick agree, each rendered and measured, ranked by what it takes beside what it gives. It yields within renders, so that a host can
 * stop, and what is offered so far after each.
 */
export function* fitSteps(document: SoundDocument, options: FitOptions): Generator<FitProgress, Fit> {
  const { sampleRateHz, assets, bassToKickDb = null } = options;
  let line = options.known;
  if (!line) {
    const measuring = measureLineSteps(document, sampleRateHz, assets);
    let step = measuring.next();
    for (; !step.done; step = measuring.next()) yield { done: 0, soFar: null };
    line = step.value;
  }
  const trials = new Trials(document, line, options);
  const { before } = trials;
  if (before.meetings === 0) return trials.fit(true);
  const level = levelChange(document, bassToKickDb);
  // Where no note can cancel, nothing but the level is left to be bettered.
  const safe = before.keptApart + before.oneWave === before.meetings;
  if (!safe) {
    const searching = searchSteps(document, trials.tail, sampleRateHz, assets);
    let step = searching.next();
    for (; !step.done; step = searching.next()) yield { done: SEARCHED / 2, soFar: null };
    const { candidates, consonant } = step.value;
    const wanted = candidates.filter(({ draft: { steps } }, i) => i < MOST_SEARCHED || steps.length === 1);
    for (let c = 0; c < wanted.length; c++) yield* trials.measure(wanted[c].draft, SEARCHED + ((DUCKED - SEARCHED) * c) / wanted.length);
    if (!before.adds) yield* duckDrafts(trials, consonant, assets);
  }
  const { kickLengthS } = trials;
  const shorter = kickLengthS !== null && kickLengthS >= WORTH_SHORTENING_S ? shortenChange(document, kickLengthS, 1000 * SHORTER * kickLengthS) : null;
  const rest = [level, ...(safe || before.verdict === 'holds' ? [] : [shorter, document.kick.shared ? null : SHARED, octaveChange(document)])].filter(isChange);
  for (let r = 0; r < rest.length; r++) yield* trials.measure(draftOf(document, [rest[r]]), DUCKED + 0.1 + (0.15 * r) / rest.length);
  return trials.fit(true);
}

/** Finds what may be offered at once; see `fitSteps`. */
export function fitOf(document: SoundDocument, options: FitOptions): Fit {
  return toEnd(fitSteps(document, options));
}
