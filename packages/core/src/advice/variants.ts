import type { SoundDocument } from '../document/index.js';
import { renderLoop, runsFree, type Assets, type LayerCache } from '../engine/index.js';
import type { NoteLock } from '../figures/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { middle, type KickTail } from '../measure/index.js';
import { nearestNote } from '../music/index.js';
import { lineChange, type Change } from './drafts.js';
import { lowsOf } from './measured-line.js';
import {
  mostMetHz,
  movedWords,
  nearestScaleHz,
  retuneCostWords,
  tailTargets,
  type TailTarget,
} from './retune.js';
import { withTailTuned } from './tune-tail.js';
import { LOW_RATE_HZ, turnedLowsSteps, type TurnedLows } from './turned-lows.js';

/** A tail within this of a note is one, in cents. */
const TAIL_IS_NOTE_CENTS = 15;
/** Most semitones by which a line is moved to the kick. */
const MOST_LINE_SEMITONES = 7;

/** A bass as it may be played: its lows at no turn and at any, and the kick that was rendered with it. */
export interface Bass {
  readonly changes: readonly Change[];
  readonly document: SoundDocument;
  readonly lows: TurnedLows | null;
  readonly low: LowBand;
  readonly kick: LowBand;
}

/** A kick as it may be tuned, and its lows. */
export interface TunedKick {
  readonly changes: readonly Change[];
  readonly low: LowBand;
}

export const changedBy = (document: SoundDocument, changes: readonly Change[]) =>
  changes.reduce((sound, { apply }) => apply(sound), document);

/**
 * Renders a bass with its turns at a low rate, in steps; `caches` keep the layers of each turn, for the next
 * one of which some are the same.
 */
export function* bassSteps(
  document: SoundDocument,
  changes: readonly Change[],
  caches: LayerCache[],
  assets?: Assets,
): Generator<void, Bass> {
  const changed = changedBy(document, changes);
  const cache = (caches[0] ??= new Map());
  const line = lowsOf(
    changed,
    renderLoop(changed, {
      sampleRateHz: LOW_RATE_HZ,
      assets,
      stems: 'none',
      brief: !runsFree(changed),
      cache,
    }),
  );
  yield;
  const lows = yield* turnedLowsSteps(changed, line.locks, assets, line.bass, caches);
  return { changes, document: changed, lows, low: line.bass, kick: line.kick };
}

/** The kick alone over the loop, below Lock's frequency. */
function kickLow(document: SoundDocument, assets?: Assets): LowBand {
  const { kick } = renderLoop(
    { ...document, line: { notes: [] } },
    { sampleRateHz: LOW_RATE_HZ, assets, stems: 'none', brief: true },
  );
  return lowBand(middle([kick.left, kick.right]), LOW_RATE_HZ, document.lock.belowHz, true);
}

/** The change that tunes a kick, as it was found. */
function tuningChange(
  document: SoundDocument,
  tuned: SoundDocument,
  fromHz: number,
  { step, hz, what }: TailTarget,
): Change {
  const note = `${step === 'scale' ? 'the scale’s ' : ''}${nearestNote(hz, document.ground.a4Hz).name}${what ? ` (${what})` : ''}`;
  return {
    step,
    phrase: `tune the kick ${movedWords(fromHz, hz)} to ${note}`,
    costs: [retuneCostWords(document, fromHz, hz)],
    apply: (sound) => ({ ...sound, kick: tuned.kick }),
  };
}

/** Renders the kick tuned to wherever its tail may be, in steps. */
export function* kickSteps(
  document: SoundDocument,
  locks: readonly NoteLock[],
  tail: KickTail | null,
  sampleRateHz: number,
  assets?: Assets,
): Generator<void, TunedKick[]> {
  const kicks: TunedKick[] = [];
  for (const target of tailTargets(document, locks, tail)) {
    const tuned = withTailTuned(document, tail!.hz, target.hz, sampleRateHz, assets);
    yield;
    if (!tuned) continue;
    kicks.push({ changes: [tuningChange(document, tuned, tail!.hz, target)], low: kickLow(tuned, assets) });
    yield;
  }
  return kicks;
}

/**
 * The line moved to the kick: to its tail where that is a note, else together with one of the kicks, whose
 * tail is tuned to the nearest note of the scale. Null where it would go too far.
 */
export function lineToKick(
  document: SoundDocument,
  locks: readonly NoteLock[],
  tail: KickTail | null,
  kicks: readonly TunedKick[],
): { readonly change: Change; readonly kick: TunedKick | null } | null {
  const root = mostMetHz(document, locks);
  if (!tail?.steady || root === null) return null;
  const isNote = Math.abs(tail.cents) <= TAIL_IS_NOTE_CENTS;
  const kick = isNote ? null : kicks.find(({ changes }) => changes.some(({ step }) => step === 'scale'));
  if (kick === undefined) return null;
  const semitones = Math.round(12 * Math.log2((isNote ? tail.hz : nearestScaleHz(document, tail.hz)) / root));
  const change =
    Math.abs(semitones) <= MOST_LINE_SEMITONES
      ? lineChange(document, semitones, isNote ? 'the kick’s tail' : 'that')
      : null;
  return change && { change, kick };
}
