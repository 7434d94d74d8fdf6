import type { SoundDocument } from '../document/index.js';
import { soundingHz, type KickFigures } from '../figures/index.js';
import { THIRD_OCTAVES_HZ } from '../measure/index.js';
import { powerToDb } from '../units/index.js';
import type { MeasuredLine } from './measured-line.js';

/** What a proposal takes, as it was measured. */
export interface Takes {
  /** By how much less low energy the bass has over the loop, dB; below 0 it has more. */
  readonly lowsDb: number;
  /** By how much further the bass stands from its beats, ms. */
  readonly grooveMs: number;
  /** By how much the kick's tail moves, cents, and how much longer the kick gets, ms. */
  readonly kickCents: number;
  readonly kickLengthMs: number;
  /** Whether the kick's own lows give way to the bass's. */
  readonly kickReplaced: boolean;
  /** Greatest change of a third-octave band of the bass above Lock's frequency, dB. */
  readonly toneDb: number;
  /** By how many semitones the bass plays higher. */
  readonly keySemitones: number;
}

/** Bands further than this under the loudest are not heard for it, in dB. */
const HEARD_DB = 20;

function toneChange(before: Float64Array, after: Float64Array, aboveHz: number): number {
  const loudest = Math.max(...before, ...after);
  return THIRD_OCTAVES_HZ.reduce(
    (most, hz, b) =>
      hz > aboveHz * 2 ** (1 / 3) && Math.max(before[b], after[b]) > loudest - HEARD_DB
        ? Math.max(most, Math.abs(after[b] - before[b]))
        : most,
    0,
  );
}

/** What it takes to go from one sound to another; `kick` are the kick's own figures before and after. */
export function takesOf(
  from: SoundDocument,
  to: SoundDocument,
  before: MeasuredLine,
  after: MeasuredLine,
  kick: { readonly before: KickFigures; readonly after: KickFigures },
): Takes {
  const kickReplaced = to.kick.shared && !from.kick.shared;
  const cents =
    !kickReplaced && kick.before.tail && kick.after.tail
      ? 1200 * Math.log2(kick.after.tail.hz / kick.before.tail.hz)
      : 0;
  const lowest = (sound: SoundDocument) => soundingHz(sound, sound.line.notes[0]?.pitch ?? 0);
  return {
    lowsDb: before.lowEnergy > 0 && after.lowEnergy > 0 ? -powerToDb(after.lowEnergy / before.lowEnergy) : 0,
    grooveMs: Math.max(0, Math.abs(to.lock.nudgeMs) - Math.abs(from.lock.nudgeMs)),
    kickCents: cents,
    kickLengthMs: kickReplaced ? 0 : 1000 * ((kick.after.lengthS ?? 0) - (kick.before.lengthS ?? 0)),
    kickReplaced,
    toneDb: toneChange(before.tone, after.tone, from.lock.belowHz),
    keySemitones: Math.round(12 * Math.log2(lowest(to) / lowest(from))),
  };
}

/** An answer lowers the lows by less than this (from the design), in dB. */
export const MOST_LOWS_DB = 6;
/** A nudge over this is felt in the groove, in ms (from the design). */
export const GROOVE_MS = 5;
/**
 * What each thing that is taken weighs against a decibel of the lows. Common practice: phase costs nothing,
 * timing and the kick's tuning little, another key or another tone much.
 */
const FELT = 0.5;
const PER_MS = 0.03;
const PER_KICK_CENT = 0.0015;
const PER_KICK_LENGTH = 0.002;
const REPLACED = 2.5;
const PER_TONE_DB = 0.1;
const OTHER_KEY = 1.5;
/** Changes of tone under this are not heard, in dB. */
const TONE_DB = 1;
/** Lows under this are within what a turn alone does, in dB. */
const LOWS_DB = 0.1;

/** How harsh a proposal is: what it takes, in decibels of lows. */
export function harshness({
  lowsDb,
  grooveMs,
  kickCents,
  kickLengthMs,
  kickReplaced,
  toneDb,
  keySemitones,
}: Takes): number {
  return (
    (lowsDb > LOWS_DB ? lowsDb : 0) +
    (grooveMs > GROOVE_MS ? FELT : 0) +
    PER_MS * grooveMs +
    PER_KICK_CENT * Math.abs(kickCents) +
    PER_KICK_LENGTH * Math.abs(kickLengthMs) +
    (kickReplaced ? REPLACED : 0) +
    (toneDb > TONE_DB ? PER_TONE_DB * toneDb : 0) +
    (keySemitones === 0 ? 0 : OTHER_KEY)
  );
}

/** What it takes, in words, shortest first; empty where it takes nothing. */
export function takesWords({ lowsDb, grooveMs, toneDb, keySemitones }: Takes): string[] {
  return [
    ...(lowsDb > LOWS_DB ? [`the bass loses ${lowsDb.toFixed(1)} dB of its lows`] : []),
    ...(grooveMs > GROOVE_MS
      ? [`the bass sits ${grooveMs.toFixed(1)} ms further off the beat, which is felt`]
      : []),
    ...(toneDb > TONE_DB ? [`the tone changes by up to ${toneDb.toFixed(1)} dB`] : []),
    ...(keySemitones % 12 === 0 ? [] : ['the line changes key']),
  ];
}
