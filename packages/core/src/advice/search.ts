import type { SoundDocument } from '../document/index.js';
import { hitTicks, lowestLayer, lowsRunFree, type Assets, type LayerCache } from '../engine/index.js';
import { ADDS_DB, cannotCancel, isLock, lockNotes, soundingHz, withoutPhase } from '../figures/index.js';
import type { KickTail } from '../measure/index.js';
import { bestCommonNudge } from './common-nudge.js';
import {
  draftOf,
  INVERT,
  nudgeChange,
  RESTART_CHANGE,
  turnChange,
  turnsChange,
  type Change,
} from './drafts.js';
import type { LineLows } from './measured-line.js';
import type { Draft, Step } from './proposal.js';
import { bestTurnFor, bestTurnsByPitch, roseGainDb, rosesOf, turnable, type Turn } from './rose.js';
import type { TurnedLows } from './turned-lows.js';
import { bassSteps, changedBy, kickSteps, lineToKick, type Bass, type TunedKick } from './variants.js';

/** A way that is simpler is taken where another gives no more than this beyond it, in dB. */
const NO_MORE_DB = 0.15;
/** What each change counts against a draft where it is chosen what is rendered first, in dB of gain. */
const EACH_STEP_DB = 0.2;
/** Tunings that do not lock: they go with ducking. */
const CONSONANT: readonly Step[] = ['fifth', 'tail-octave'];

/** A draft with what its worst meeting is said to have by the roses. */
export interface Candidate {
  readonly draft: Draft;
  readonly worstSumGainDb: number;
  readonly adds: boolean;
}

/** What a search has found, best first by what the roses say. */
export interface Searched {
  readonly candidates: readonly Candidate[];
  /** Tunings of the kick to the fifth or the octave of the root, where its tail lies next to it. */
  readonly consonant: readonly Change[];
  /** Goes on with the line moved to the kick, whose basses are rendered only then. */
  readonly further: () => Generator<void, Candidate[]>;
}

/**
 * One way to turn or move a bass against a kick, and what its worst meeting has then; no change for as it is.
 */
interface Way {
  readonly change: Change | null;
  readonly worstSumGainDb: number;
}

/** What turns, polarity and nudge give a bass against a kick, by its roses: the simplest first. */
function phaseWays(document: SoundDocument, line: LineLows, lows: TurnedLows | null, free: boolean): Way[] {
  const roses = rosesOf(line, lows);
  const all = turnable(line.locks, roses);
  if (all.length === 0) return [];
  const worst = (turnOf: (pitch: number | null) => number, sign = 1) =>
    Math.min(...all.map(({ rose, phasePitch }) => roseGainDb(rose, turnOf(phasePitch), sign)));
  const one = free ? null : bestTurnFor(all.map(({ rose }) => rose));
  const each: ReadonlyMap<number, Turn> = free ? new Map() : bestTurnsByPitch(line.locks, roses);
  const nudge = bestCommonNudge(
    line,
    1 / Math.min(...document.line.notes.map(({ pitch }) => soundingHz(document, pitch))),
  );
  return [
    { change: null, worstSumGainDb: worst(() => 0) },
    ...(one ? [{ change: turnChange(one), worstSumGainDb: one.worstSumGainDb }] : []),
    ...(each.size > 1
      ? [
          {
            change: turnsChange(each),
            worstSumGainDb: worst((pitch) => (pitch === null ? 0 : (each.get(pitch)?.turnDeg ?? 0))),
          },
        ]
      : []),
    { change: INVERT, worstSumGainDb: worst(() => 0, -1) },
    { change: nudgeChange(document, nudge), worstSumGainDb: nudge?.worstSumGainDb ?? -Infinity },
  ].filter(({ change }, i) => i === 0 || change !== null);
}

/** Whether every meeting of a line has a sum gain to show, or cannot cancel. */
const noneLost = ({ locks }: LineLows) =>
  locks.every(({ meetings }) =>
    meetings.every(({ lock }) => (isLock(lock) ? !withoutPhase(lock) : cannotCancel(lock.reason))),
  );

/** Whether any hit falls into a note that is under way by then: only there a restart changes anything. */
function heldOver({ line, kick }: SoundDocument): boolean {
  const hits = hitTicks(kick);
  return line.notes.some(({ tick, ticks, tie }) =>
    hits.some((hit) => hit < tick + ticks && (tie ? hit > tick - 1 : hit > tick + 1)),
  );
}

/**
 * What a bass and a kick offer together; `every` for every way of turning and moving, else the simplest of
 * those that give most, and by itself what is done by itself at a press.
 */
function candidatesOf(document: SoundDocument, bass: Bass, kick: TunedKick, every: boolean): Candidate[] {
  const changed = changedBy(bass.document, kick.changes);
  const line: LineLows = { locks: lockNotes(changed, kick.low, bass.low), kick: kick.low, bass: bass.low };
  const ways = phaseWays(changed, line, bass.lows, lowsRunFree(document));
  if (ways.length === 0) return [];
  const own = [...kick.changes, ...bass.changes];
  const candidate = ({ change, worstSumGainDb }: Way): Candidate => ({
    draft: draftOf(document, change ? [...own, change] : own),
    worstSumGainDb,
    adds: worstSumGainDb >= ADDS_DB && noneLost(line),
  });
  if (every) return ways.slice(1).map(candidate);
  const most = Math.max(...ways.map(({ worstSumGainDb }) => worstSumGainDb));
  const simplest = ways.find(({ worstSumGainDb }) => worstSumGainDb >= most - NO_MORE_DB)!;
  const alone = own.length === 1 && own[0].step !== 'restart' && simplest.change !== null;
  return [candidate(simplest), ...(alone ? [candidate(ways[0])] : [])];
}

/**
 * What may make kick and bass agree by phase and pitch: {as it is, restart with the kick} × {as it is, the
 * kick's tail tuned, the line moved to the tail} × {turn, a turn a pitch, nudge,
 * polarity}. Only basses and kicks are rendered, a few each at a low rate; how any two stand to each other
 * the roses say. Of each pair the simplest way that gives most is kept, of the sound as it is every way.
 */
export function* searchSteps(
  document: SoundDocument,
  tail: KickTail | null,
  sampleRateHz: number,
  assets?: Assets,
): Generator<void, Searched> {
  const restarts =
    !lowsRunFree(document) &&
    document.kick.on &&
    !document.kick.shared &&
    lowestLayer(document).voice.restart === 'note' &&
    heldOver(document);
  const caches: LayerCache[] = [];
  const asIs = yield* bassSteps(document, [], caches, assets);
  const basses = [asIs, ...(restarts ? [yield* bassSteps(document, [RESTART_CHANGE], caches, assets)] : [])];
  const locks = lockNotes(document, asIs.kick, asIs.low);
  const kickAsIs: TunedKick = { changes: [], low: asIs.kick };
  const tuned = yield* kickSteps(document, locks, tail, sampleRateHz, assets);

  // Held notes are restarted first of all.
  const rank = ({ adds, worstSumGainDb, draft: { steps } }: Candidate) =>
    (restarts && steps.includes('restart') ? 200 : 0) +
    (adds ? 100 : 0) +
    worstSumGainDb -
    EACH_STEP_DB * steps.length;
  const offered = function* (
    pairs: readonly { readonly bass: Bass; readonly kick: TunedKick }[],
  ): Generator<void, Candidate[]> {
    const found: Candidate[] = [];
    for (const { bass, kick } of pairs) {
      found.push(...candidatesOf(document, bass, kick, bass === asIs && kick === kickAsIs));
      yield;
    }
    return found.sort((a, b) => rank(b) - rank(a));
  };
  const further = function* (): Generator<void, Candidate[]> {
    const moved = lineToKick(document, locks, tail, tuned);
    if (!moved) return [];
    const pairs = [];
    for (const changes of restarts ? [[moved.change], [moved.change, RESTART_CHANGE]] : [[moved.change]])
      pairs.push({ bass: yield* bassSteps(document, changes, caches, assets), kick: moved.kick ?? kickAsIs });
    return yield* offered(pairs);
  };
  const candidates = yield* offered(
    [kickAsIs, ...tuned].flatMap((kick) => basses.map((bass) => ({ bass, kick }))),
  );
  return {
    candidates,
    consonant: tuned.flatMap(({ changes }) => changes.filter(({ step }) => CONSONANT.includes(step))),
    further,
  };
}
