import type { LineNote, SoundDocument } from '../../document/index.js';
import {
  hasPhase,
  lowPeak,
  measureLock,
  measureSums,
  noLock,
  SILENCE,
  stretchOf,
  wrapDegrees,
  type Lock,
  type LowBand,
  type NoLock,
  type NoLockReason,
} from '../../lock/index.js';
import { powerToDb } from '../../units/index.js';
import { meetingStretches, phasePitches, soundingHz, type MeetingStretch } from './meetings.js';

/**
 * The two sound together where the kick stands within 12 dB of the bass (from the design), and within 30 dB
 * of its own peak: what filters spread before a hit does not count.
 */
const TOGETHER = 10 ** (-12 / 20);
const KICK_SOUNDS = 10 ** (-30 / 20);
/** A bass so much under its own peak is gone. */
const GONE = 10 ** (-20 / 20);
/**
 * What kick and bass may lose at the most for ducking to count as keeping them apart: if they cancelled all
 * the time, and as they stand.
 */
const APART_WORST_DB = -1.5;
const APART_DB = -0.5;
/** Whether a reason says that kick and bass cannot cancel: such a meeting holds. */
export const cannotCancel = (reason: NoLockReason) => reason === 'kept apart' || reason === 'one wave';
/** Length of a kick for the overlap: while its low band stands within 40 dB of its peak. */
const LASTS = 10 ** (-40 / 20);

/** A note and one hit of the kick, as they sound together. */
export interface Meeting extends MeetingStretch {
  readonly lock: Lock | NoLock;
  /**
   * Share of the bass's low energy while the kick lasts that meets the kick within 12 dB of it, 0 to 1; null
   * where there is none.
   */
  readonly overlap: number | null;
  /** The pitch whose start phase it has; null where its phase has no start. */
  readonly phasePitch: number | null;
}

/** How a note of the line stands to the kick: by the worst of its meetings. */
export interface NoteLock {
  readonly note: LineNote;
  /** In order of time; empty where no kick meets the note. */
  readonly meetings: readonly Meeting[];
  /** Place of the worst among them; −1 for none. */
  readonly worst: number;
  readonly lock: Lock | NoLock;
  readonly overlap: number | null;
  /** How far the bearings of its meetings stand apart, degrees; null with fewer than two. */
  readonly spreadDeg: number | null;
}

export const isLock = (lock: Lock | NoLock): lock is Lock => lock.kind === 'lock';
/** Whether two have no common phase: what their energies add up to says nothing of a lock. */
export const withoutPhase = (lock: Lock | NoLock) => isLock(lock) && lock.noPhase !== null;
/** Whether that is because they stand at different pitches, and beat. */
export const beats = (lock: Lock | NoLock) => isLock(lock) && lock.noPhase?.cause === 'different pitches';

/** The sum gain that a lock shows: none where there is no lock, or no common phase. */
export function shownGainDb(lock: Lock | NoLock): number | null {
  return isLock(lock) && !withoutPhase(lock) ? lock.sumGainDb : null;
}

/**
 * How good a lock is, for finding the worst: two without a common phase are worse than any that add, and
 * better than any that cancel; what cannot cancel is best.
 */
export function standingOf(lock: Lock | NoLock): number {
  if (!isLock(lock)) return cannotCancel(lock.reason) ? Infinity : 1000;
  return withoutPhase(lock) ? 0 : lock.sumGainDb;
}

/**
 * How far angles stand apart at the most, in degrees: 360 less the widest gap between neighbours; null for
 * fewer than two.
 */
export function spreadDeg(angles: readonly number[]): number | null {
  if (angles.length < 2) return null;
  const sorted = angles.map(wrapDegrees).sort((a, b) => a - b);
  const widest = sorted.reduce(
    (most, angle, i) =>
      Math.max(most, i === 0 ? sorted[0] + 360 - sorted[sorted.length - 1] : angle - sorted[i - 1]),
    0,
  );
  return 360 - widest;
}

/** Bearings of meetings that have one. */
export const bearingsOf = (meetings: readonly Meeting[]) =>
  meetings.flatMap(({ lock }) => (isLock(lock) && lock.bearingDeg !== null ? [lock.bearingDeg] : []));

/** Whether the kick stands within 12 dB of the bass for at least a period of it. */
function together(kick: LowBand, bass: LowBand, kickPeak: number, periodS: number): boolean {
  let count = 0;
  for (let i = 0; i < kick.re.length; i++) {
    const k = Math.hypot(kick.re[i], kick.im[i]);
    if (k >= kickPeak * KICK_SOUNDS && k >= TOGETHER * Math.hypot(bass.re[i], bass.im[i])) count++;
  }
  return count >= periodS * kick.rateHz;
}

/**
 * Whether ducking keeps the two apart while the kick sounds (stands within 30 dB of its peak in the meeting):
 * even if they cancelled all the time the sum would lose little,
 * and as they stand next to nothing.
 */
function keptApart(kick: LowBand, bass: LowBand): boolean {
  const least = lowPeak(kick) * KICK_SOUNDS;
  let energies = 0;
  let product = 0;
  let re = 0;
  for (let i = 0; i < kick.re.length; i++) {
    const k = Math.hypot(kick.re[i], kick.im[i]);
    if (k < least) continue;
    const b = Math.hypot(bass.re[i], bass.im[i]);
    energies += k * k + b * b;
    product += k * b;
    re += bass.re[i] * kick.re[i] + bass.im[i] * kick.im[i];
  }
  const lost = (cross: number) => powerToDb(Math.max(0, 1 + (2 * cross) / energies));
  return lost(-product) >= APART_WORST_DB && lost(re) >= APART_DB;
}

/**
 * Whether hard ducking has taken the bass away: 20 dB or more under its own peak in the loop wherever the
 * kick stands within 12 dB of its own.
 */
function takenAway(kick: LowBand, bass: LowBand, kickPeak: number, bassPeak: number): boolean {
  for (let i = 0; i < kick.re.length; i++) {
    if (
      Math.hypot(kick.re[i], kick.im[i]) >= kickPeak * TOGETHER &&
      Math.hypot(bass.re[i], bass.im[i]) > bassPeak * GONE
    )
      return false;
  }
  return true;
}

function overlapOf(kick: LowBand, bass: LowBand, kickPeak: number): number | null {
  let all = 0;
  let met = 0;
  for (let i = 0; i < kick.re.length; i++) {
    const k = Math.hypot(kick.re[i], kick.im[i]);
    if (k < kickPeak * LASTS) continue;
    const b = Math.hypot(bass.re[i], bass.im[i]);
    all += b * b;
    if (k >= b * TOGETHER) met += b * b;
  }
  return all > 0 ? met / all : null;
}

/** A note with the meetings that were measured of it. */
export function noteLock(note: LineNote, meetings: readonly Meeting[]): NoteLock {
  const worst = meetings.reduce(
    (least, { lock }, m) => (least < 0 || standingOf(lock) < standingOf(meetings[least].lock) ? m : least),
    -1,
  );
  if (worst < 0) return { note, meetings, worst, lock: noLock('not met'), overlap: null, spreadDeg: null };
  return {
    note,
    meetings,
    worst,
    lock: meetings[worst].lock,
    overlap: meetings[worst].overlap,
    spreadDeg: spreadDeg(bearingsOf(meetings)),
  };
}

/**
 * Walks through the meetings of a line in the low bands of its loop: those that cannot cancel with their
 * reason, the others with what `measure` makes of them.
 */
function eachMeeting<L extends { readonly kind: 'lock' | 'none' }>(
  document: SoundDocument,
  kick: LowBand,
  bass: LowBand,
  stretches: readonly (readonly MeetingStretch[])[],
  measure: (stretch: MeetingStretch, k: LowBand, b: LowBand, periodS: number) => L,
  take: (
    note: number,
    place: number,
    stretch: MeetingStretch,
    lock: L | NoLock,
    overlap: () => number | null,
  ) => void,
): void {
  const kickPeak = lowPeak(kick);
  const bassPeak = lowPeak(bass);
  const {
    kick: { on, shared },
    duck,
  } = document;
  const isApart = (k: LowBand, b: LowBand) =>
    duck.on && ((duck.hard && takenAway(k, b, kickPeak, bassPeak)) || keptApart(k, b));
  document.line.notes.forEach((note, n) => {
    const periodS = 1 / soundingHz(document, note.pitch);
    stretches[n].forEach((stretch, m) => {
      if (on && shared && stretch.within) {
        take(n, m, stretch, noLock('one wave'), () => null);
        return;
      }
      const k = stretchOf(kick, stretch.from, stretch.to);
      const b = stretchOf(bass, stretch.from, stretch.to);
      if (kickPeak <= SILENCE || !together(k, b, kickPeak, periodS)) return;
      take(n, m, stretch, isApart(k, b) ? noLock('kept apart') : measure(stretch, k, b, periodS), () =>
        overlapOf(k, b, kickPeak),
      );
    });
  });
}

/**
 * Measures the lock of every note of a line with every hit that it meets, in the low bands of its rendered
 * loop.
 */
export function lockNotes(document: SoundDocument, kick: LowBand, bass: LowBand): NoteLock[] {
  const stretches = meetingStretches(document, bass.re.length, bass.rateHz);
  const pitches = phasePitches(document, stretches);
  const found: Meeting[][] = document.line.notes.map(() => []);
  eachMeeting(
    document,
    kick,
    bass,
    stretches,
    ({ from, to }, _k, _b, periodS) => measureLock(kick, bass, from, to, periodS),
    (n, m, stretch, lock, overlap) => {
      found[n].push({ ...stretch, phasePitch: pitches[n][m], lock, overlap: overlap() });
    },
  );
  return document.line.notes.map((note, n) => noteLock(note, found[n]));
}

/**
 * Whether every meeting of a line adds so many dB or more, or cannot cancel: the same as of `lockNotes`,
 * without what is not asked for. False where there is no meeting.
 */
export function everyMeetingAdds(
  document: SoundDocument,
  kick: LowBand,
  bass: LowBand,
  addsDb: number,
): boolean {
  let meetings = 0;
  let adding = 0;
  eachMeeting(
    document,
    kick,
    bass,
    meetingStretches(document, bass.re.length, bass.rateHz),
    (_stretch, k, b, periodS) => measureSums(k, b, periodS),
    (_n, _m, _stretch, lock) => {
      meetings++;
      if (lock.kind === 'none' ? cannotCancel(lock.reason) : hasPhase(lock) && lock.sumGainDb >= addsDb)
        adding++;
    },
  );
  return meetings > 0 && adding === meetings;
}
