import type { SoundDocument } from '../document/index.js';
import { lowestLayer, renderLoop, runsFree, swung, type Assets } from '../engine/index.js';
import { ADDS_DB, beats, cannotCancel, isLock, lockNotes, soundingHz } from '../figures/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { middle, type KickTail } from '../measure/index.js';
import { nearestNote } from '../music/index.js';
import { bestCommonNudge } from './common-nudge.js';
import { draftOf, INVERT, lineChange, nudgeChange, RESTART, turnChange, turnsChange, type Change } from './drafts.js';
import { lowsOf, type LineLows } from './measured-line.js';
import type { Draft } from './proposal.js';
import { mostMetHz, movedWords, nearestScaleHz, retuneCostWords, tailTargets } from './retune.js';
import { bestTurnFor, bestTurnsByPitch, roseGainDb, rosesOf, turnable } from './rose.js';
import { withTailTuned } from './tune-tail.js';
import { LOW_RATE_HZ, turnedLowsSteps, type TurnedLows } from './turned-lows.js';

/** A way that is simpler is taken where another gives no more than this beyond it, in dB. */
const NO_MORE_DB = 0.15;
/** A tail within this of a note is one, in cents. */
const TAIL_IS_NOTE_CENTS = 15;
/** Most semitones by which a line is moved to the kick. */
const MOST_LINE_SEMITONES = 7;
/** A change of key or kick, for ranking what is to be rendered first, in dB of gain. */
const EACH_STEP_DB = 0.2;

/** A draft with what its worst meeting is said to have by the roses. */
export interface Candidate { readonly draft: Draft; readonly worstSumGainDb: number; readonly adds: boolean }

/** Changes of the bass, and its lows with them. */
interface Bass { readonly changes: readonly Change[]; readonly document: SoundDocument; readonly lows: TurnedLows | null; readonly low: LowBand }
/** Changes of the kick, and its lows with them. */
interface Kick { readonly changes: readonly Change[]; readonly low: LowBand }

function* bassOf(document: SoundDocument, changes: readonly Change[], assets?: Assets): Generator<void, Bass & { readonly kick: LowBand }> {
  const changed = changes.reduce((sound, { apply }) => apply(sound), document);
  const line = lowsOf(changed, renderLoop(changed, { sampleRateHz: LOW_RATE_HZ, assets, stems: false, brief: !runsFree(changed) }));
  yield;
  const lows = yield* turnedLowsSteps(changed, line.locks, assets, line.bass);
  return { changes, document: changed, lows, low: line.bass, kick: line.kick };
}

/** The kick alone over the loop, below Lock's frequency. */
function kickLow(document: SoundDocument, assets?: Assets): LowBand {
  const { kick } = renderLoop({ ...document, line: { notes: [] } }, { sampleRateHz: LOW_RATE_HZ, assets, stems: false, brief: true });
  return lowBand(middle([kick.left, kick.right]), LOW_RATE_HZ, document.lock.belowHz, true);
}

/** What turns, polarity and nudge give a bass against a kick, by its roses: the simplest first. */
function phaseWays(document: SoundDocument, line: LineLows, lows: TurnedLows | null, free: boolean): { readonly change: Change | null; readonly worstSumGainDb: number }[] {
  const roses = rosesOf(line, lows);
  const all = turnable(line.locks, roses);
  if (all.length === 0) return [];
  const worst = (turnOf: (pitch: number | null) => number, sign = 1) => Math.min(...all.map(({ rose, phasePitch }) => roseGainDb(rose, turnOf(phasePitch), sign)));
  const one = free ? null : bestTurnFor(all.map(({ rose }) => rose));
  const each = free ? new Map() : bestTurnsByPitch(line.locks, roses);
  const nudge = bestCommonNudge(line, 1 / Math.min(...document.line.notes.map(({ pitch }) => soundingHz(document, pitch))));
  return [
    { change: null, worstSumGainDb: worst(() => 0) },
    ...(one ? [{ change: turnChange(one), worstSumGainDb: one.worstSumGainDb }] : []),
    ...(each.size > 1 ? [{ change: turnsChange(each), worstSumGainDb: worst((pitch) => (pitch === null ? 0 : each.get(pitch)?.turnDeg ?? 0)) }] : []),
    { change: INVERT, worstSumGainDb: worst(() => 0, -1) },
    { change: nudgeChange(document, nudge), worstSumGainDb: nudge?.worstSumGainDb ?? -Infinity },
  ].filter(({ change }, i) => i === 0 || change !== null);
}

const withoutOthers = ({ locks }: LineLows) => locks.every(({ meetings }) => meetings.every(({ lock }) => (isLock(lock) ? !beats(lock) : cannotCancel(lock.reason))));

/** Whether any hit falls into a note that is under way by then: only there a restart changes anything. */
function heldOver({ line, kick }: SoundDocument): boolean {
  const hits = kick.hits.map(({ tick }) => swung(tick, kick.swingPct));
  return line.notes.some(({ tick, ticks, tie }) => hits.some((hit) => hit < tick + ticks && (tie ? hit > tick - 1 : hit > tick + 1)));
}

/**
 * What may make kick and bass agree by phase and pitch: {as it is, restart with the kick} × {as it is, the kick's tail tuned, the line moved to the tail} × {turn, a turn a pitch, nudge,
 * polarity}. Only basses and kicks are rendered, a few each at a low rate; how any two stand to each other the roses say. Of each pair the simplest way that gives most is kept, of the sound as it is every way;
 * best first by what the roses say.
 */
export function* searchSteps(document: SoundDocument, tail: KickTail | null, sampleRateHz: number, assets?: Assets): Generator<void, Candidate[]> {
  const free = runsFree(document);
  const asIs = yield* bassOf(document, [], assets);
  const line: LineLows = { locks: lockNotes(document, asIs.kick, asIs.low), kick: asIs.kick, bass: asIs.low };
  const restarts = !free && document.kick.on && !document.kick.shared && lowestLayer(document).voice.restart === 'note' && heldOver(document);
  const basses: Bass[] = [asIs, ...(restarts ? [yield* bassOf(document, [RESTART], assets)] : [])];

  const kicks: Kick[] = [];
  for (const { step, hz, what } of tailTargets(document, line.locks, tail)) {
    const tuned = withTailTuned(document, tail!.hz, hz, sampleRateHz, assets);
    yield;
    if (!tuned) continue;
    const { name } = nearestNote(hz, document.ground.a4Hz);
    const phrase = `tune the kick ${movedWords(tail!.hz, hz)} to ${name}${what ? `, ${what},` : ''}`;
    kicks.push({ changes: [{ step, phrase: step === 'scale' ? phrase.replace('to ', 'to the scale’s ') : phrase, costs: [retuneCostWords(document, tail!.hz, hz)], apply: (sound) => ({ ...sound, kick: tuned.kick }) }], low: kickLow(tuned, assets) });
    yield;
  }

  const pairs: { bass: Bass; kick: Kick; all: boolean }[] = [
    { bass: asIs, kick: { changes: [], low: asIs.kick }, all: true },
    ...basses.slice(1).map((bass) => ({ bass, kick: { changes: [], low: asIs.kick }, all: false })),
    ...kicks.flatMap((kick) => basses.map((bass) => ({ bass, kick, all: false }))),
  ];

  // The line goes to the kick: where its tail is a note, or is tuned to the scale's nearest.
  const root = mostMetHz(document, line.locks);
  if (tail?.steady && root !== null) {
    const tuned = Math.abs(tail.cents) <= TAIL_IS_NOTE_CENTS ? null : kicks.find(({ changes: [{ step }] }) => step === 'scale') ?? null;
    const toHz = tuned ? nearestScaleHz(document, tail.hz) : tail.hz;
    const semitones = Math.round(12 * Math.log2(toHz / root));
    const moved = tuned || Math.abs(tail.cents) <= TAIL_IS_NOTE_CENTS ? lineChange(document, semitones, tuned ? 'that' : 'the kick’s tail') : null;
    if (moved && Math.abs(semitones) <= MOST_LINE_SEMITONES) {
      for (const changes of restarts ? [[moved], [moved, RESTART]] : [[moved]]) pairs.push({ bass: yield* bassOf(document, changes, assets), kick: tuned ?? { changes: [], low: asIs.kick }, all: false });
    }
  }

  const found: Candidate[] = [];
  for (const { bass, kick, all } of pairs) {
    const changed = kick.changes.reduce((sound, { apply }) => apply(sound), bass.document);
    const both: LineLows = { locks: lockNotes(changed, kick.low, bass.low), kick: kick.low, bass: bass.low };
    const ways = phaseWays(changed, both, bass.lows, free);
    yield;
    const own = [...kick.changes, ...bass.changes];
    const candidate = ({ change, worstSumGainDb }: (typeof ways)[number]): Candidate => ({ draft: draftOf(document, change ? [...own, change] : own), worstSumGainDb, adds: worstSumGainDb >= ADDS_DB && withoutOthers(both) });
    if (all) found.push(...ways.filter(({ change }) => change !== null).map(candidate));
    else if (ways.length > 0) {
      const most = Math.max(...ways.map(({ worstSumGainDb }) => worstSumGainDb));
      const simplest = ways.find(({ worstSumGainDb }) => worstSumGainDb >= most - NO_MORE_DB)!;
      found.push(candidate(simplest));
      // What is done by itself at a press is told as well.
      if (own.length === 1 && own[0].step !== 'restart' && simplest.change) found.push(candidate(ways[0]));
    }
  }
  // Held notes are restarted first of all.
  const rank = ({ adds, worstSumGainDb, draft }: Candidate) => (restarts && draft.steps.includes('restart') ? 200 : 0) + (adds ? 100 : 0) + worstSumGainDb - EACH_STEP_DB * draft.steps.length;
  return found.sort((a, b) => rank(b) - rank(a));
}
