import type { SoundDocument, Targets } from '../../document/index.js';
import type { NoLockReason } from '../../lock/index.js';
import { missText } from '../../units/index.js';
import {
  beats,
  cannotCancel,
  isLock,
  shownGainDb,
  withoutPhase,
  type Meeting,
  type NoteLock,
} from './note-lock.js';
import { judgeLock, worse, type Verdict } from './verdict.js';

/** A meeting adds where the sum gains as much (from the design). */
export const ADDS_DB = 0.5;

/** How a whole line stands to the kick, meeting by meeting. */
export interface LineLock {
  /** Sum gain of the worst meeting that shows one, dB; null where none does. */
  readonly worstSumGainDb: number | null;
  /** MIDI note number of its note. */
  readonly worstPitch: number | null;
  /** Notes that meet the kick, and their meetings with its hits. */
  readonly notes: number;
  readonly meetings: number;
  /**
   * Meetings that cannot cancel, kept apart on purpose or one wave with the kick; those without a common
   * phase, and of these the ones that beat at different pitches.
   */
  readonly keptApart: number;
  readonly oneWave: number;
  readonly withoutPhase: number;
  readonly beating: number;
  /** Whether every meeting adds 0.5 dB or more, or cannot cancel. */
  readonly adds: boolean;
  readonly verdict: Verdict;
  /**
   * By how much the worst misses its target where its number does not show it, such as "0.02 under"; else
   * null.
   */
  readonly miss: string | null;
}

/** How one meeting stands against its targets. Two without a common phase are to watch, never to hold. */
export function judgeMeeting({ lock }: Pick<Meeting, 'lock'>, targets: Targets): Verdict {
  if (!isLock(lock)) return cannotCancel(lock.reason) ? 'holds' : 'unknown';
  return withoutPhase(lock) ? 'watch' : judgeLock(lock.sumGainDb, lock.bestSumGainDb, targets);
}

/** Whether a meeting adds, or cannot cancel. */
function meetingAdds({ lock }: Meeting): boolean {
  if (!isLock(lock)) return cannotCancel(lock.reason);
  return !withoutPhase(lock) && lock.sumGainDb >= ADDS_DB;
}

/** The note of a line whose lock is worst of those that show a sum gain; null where none does. */
export function worstLock<N extends NoteLock>(notes: readonly N[]): N | null {
  return notes.reduce<N | null>((worst, note) => {
    const gain = shownGainDb(note.lock);
    return gain !== null && (worst === null || gain < shownGainDb(worst.lock)!) ? note : worst;
  }, null);
}

/** Sums up the locks of a line. */
export function lineLock({ targets }: Pick<SoundDocument, 'targets'>, locks: readonly NoteLock[]): LineLock {
  const meetings = locks.flatMap(({ note, meetings: own }) =>
    own.map((meeting) => ({ pitch: note.pitch, meeting })),
  );
  const shown = meetings.flatMap(({ pitch, meeting }) => {
    const gain = shownGainDb(meeting.lock);
    return gain === null ? [] : [{ pitch, gain }];
  });
  const worst = shown.reduce<(typeof shown)[number] | null>(
    (least, each) => (least === null || each.gain < least.gain ? each : least),
    null,
  );
  const count = (test: (meeting: Meeting) => boolean) =>
    meetings.filter(({ meeting }) => test(meeting)).length;
  const reason = (wanted: NoLockReason) => count(({ lock }) => !isLock(lock) && lock.reason === wanted);
  return {
    worstSumGainDb: worst?.gain ?? null,
    worstPitch: worst?.pitch ?? null,
    notes: locks.filter(({ meetings: own }) => own.length > 0).length,
    meetings: meetings.length,
    keptApart: reason('kept apart'),
    oneWave: reason('one wave'),
    withoutPhase: count(({ lock }) => withoutPhase(lock)),
    beating: count(({ lock }) => beats(lock)),
    adds: meetings.length > 0 && meetings.every(({ meeting }) => meetingAdds(meeting)),
    miss: missText(worst?.gain ?? null, { least: targets.sumGainDb }),
    verdict: meetings.reduce<Verdict>(
      (verdict, { meeting }) => worse(verdict, judgeMeeting(meeting, targets)),
      'unknown',
    ),
  };
}
