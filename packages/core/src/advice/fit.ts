import type { SoundDocument } from '../document/index.js';
import { runsFree, type Assets } from '../engine/index.js';
import { kickFigures } from '../figures/index.js';
import { toEnd } from '../units/index.js';
import { bestCommonNudge } from './common-nudge.js';
import { duckDraft, invertDraft, levelDraft, lineDraft, nudgeDraft, octaveDraft, retuneDraft, sharedDraft, shortenDraft, turnDraft, turnsDraft, withTurnsByPitch } from './drafts.js';
import { lineLock, measureLineSteps, type LineLock, type MeasuredLine } from './line-lock.js';
import { COST_DB, type Draft, type Proposal } from './proposal.js';
import { rosesOf, type NoteRose } from './rose.js';
import { turnedLowsSteps } from './turned-lows.js';

/** What is offered so that bass and kick agree, best first, and how they stand before. */
export interface Fit {
  readonly before: LineLock;
  readonly roses: readonly (NoteRose | null)[];
  /** What is offered, best first. */
  readonly proposals: readonly Proposal[];
  /** All that was rendered, what makes it worse too. */
  readonly tried: readonly Proposal[];
}

export interface FitOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  /** Level of the bass over the kick at its worst note, dB. */
  readonly bassToKickDb?: number | null;
  /** Line and roses where they are known by now. */
  readonly known?: { readonly line: MeasuredLine; readonly roses: readonly (NoteRose | null)[] };
}

/** Less gain than this is not offered. */
const LEAST_DB = 0.2;

/** The roses of a measured line, in steps: by rendering the turn, or by a constant rotation where that cannot be. */
export function* roseSteps(document: SoundDocument, line: MeasuredLine, assets?: Assets): Generator<void, (NoteRose | null)[]> {
  return rosesOf(document, line, yield* turnedLowsSteps(document, line.locks, assets));
}

/** Whether a line has notes that cannot cancel. */
const safe = ({ keptApart, oneWave }: LineLock) => keptApart + oneWave > 0;

/** How much a line gained for its worst note; keeping the two apart counts as neither gained nor lost. */
function gainOf(before: LineLock, after: LineLock): number {
  const standing = (line: LineLock) => line.worstSumGainDb ?? (safe(line) ? 0 : null);
  const [was, is] = [standing(before), standing(after)];
  return was === null || is === null ? 0 : is - was;
}

/**
 * Everything that may make bass and kick agree, each rendered and measured, ranked by what it gains less what it costs. It yields within renders, so that a host can
 * stop. Of turning and of giving each pitch a phase only what gains more stays, and tuning is offered together with the turn that goes with it.
 */
export function* fitSteps(document: SoundDocument, { sampleRateHz, assets, bassToKickDb = null, known }: FitOptions): Generator<unknown, Fit> {
  const line = known?.line ?? (yield* measureLineSteps(document, sampleRateHz, assets));
  const before = lineLock(line.locks);
  yield;
  const roses = known?.roses ?? (yield* roseSteps(document, line, assets));
  if (before.meeting === 0) return { before, roses, proposals: [], tried: [] };
  const kick = kickFigures(document, sampleRateHz, assets);
  const free = runsFree(document);
  // Where no note can cancel, nothing but the level is left to be bettered.
  const drafts: Draft[] = before.worstSumGainDb === null && safe(before) ? levelDraft(document, bassToKickDb) : [
    ...(free ? [] : [...turnDraft(document, roses), ...turnsDraft(document, line.locks, roses)]), ...invertDraft(document), ...nudgeDraft(document, bestCommonNudge(document, line.kick, line.bass)),
    ...retuneDraft(document, line.locks, kick.tail, sampleRateHz, assets), ...lineDraft(document, line.locks, kick.tail), ...levelDraft(document, bassToKickDb), ...shortenDraft(document, kick.lengthS), ...sharedDraft(document), ...duckDraft(document), ...octaveDraft(document),
  ];
  const proposals: Proposal[] = [];
  for (let d = 0; d < drafts.length; d++) {
    const draft = drafts[d];
    const measured = yield* measureLineSteps(draft.document, sampleRateHz, assets);
    const after = lineLock(measured.locks);
    proposals.push({ ...draft, after, gainDb: gainOf(before, after), low: measured });
    if (draft.id === 'retune' && !free) {
      const both = withTurnsByPitch(draft.document, measured.locks, yield* roseSteps(draft.document, measured, assets));
      if (both) {
        const found = yield* measureLineSteps(both, sampleRateHz, assets);
        const together = lineLock(found.locks);
        proposals.push({ ...draft, id: 'retune-turn', title: `${draft.title}, and turn the bass to it`, document: both, after: together, gainDb: gainOf(before, together), low: found });
      }
    }
    yield;
  }
  const worth = ({ gainDb, cost }: Proposal) => gainDb - COST_DB[cost];
  // Notes that no turn can lock are kept apart instead, if nothing better is found.
  const offered = proposals.filter(({ id, gainDb, after }) => id === 'level' || (id === 'duck' && before.withoutPhase > 0 && safe(after)) || (gainDb >= LEAST_DB && (after.worstSumGainDb !== null || safe(after))));
  const [turns, one] = ['turns', 'turn'].map((id) => offered.find((each) => each.id === id));
  const ranked = offered.filter((each) => !(each === turns && one && one.gainDb > each.gainDb - LEAST_DB)).sort((a, b) => worth(b) - worth(a));
  return { before, roses, proposals: ranked, tried: proposals };
}

/** Finds what may be offered at once; see `fitSteps`. */
export function fitOf(document: SoundDocument, options: FitOptions): Fit {
  return toEnd(fitSteps(document, options));
}
