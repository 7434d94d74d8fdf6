import type { SoundDocument } from '../../document/index.js';
import type { NoLockReason } from '../../lock/index.js';
import { beatingWords, noPhaseWords } from './no-phase-words.js';
import { beats, cannotCancel, isLock, withoutPhase, type NoteLock } from './note-lock.js';

/** Why there is no lock, in words. */
export const NO_LOCK_WORDS: Readonly<Record<NoLockReason, string>> = {
  'no kick': 'no kick sounds here',
  'no bass': 'no bass sounds here',
  'too short': 'kick and bass overlap for less than one cycle',
  'not met': 'no kick lands on this note',
  'kept apart': 'kept apart',
  'one wave': 'one oscillator for both: there is nothing to cancel',
};

/** Why a line shows no sum gain, in words; `notes` are its locks, where they are known. */
export function noLockWords(document: SoundDocument, notes: readonly NoteLock[] = []): string {
  const meetings = notes.flatMap((note) => note.meetings);
  const lost = meetings.find(({ lock }) => beats(lock)) ?? meetings.find(({ lock }) => withoutPhase(lock));
  if (lost && isLock(lost.lock))
    return (beats(lost.lock) ? beatingWords : noPhaseWords)(lost.lock.noPhase!, document.ground.a4Hz);
  const apart = meetings.find(({ lock }) => !isLock(lock) && cannotCancel(lock.reason));
  if (apart && !isLock(apart.lock)) return NO_LOCK_WORDS[apart.lock.reason];
  if (document.line.notes.length === 0) return 'the line is empty';
  if (!document.kick.on || document.kick.hits.length === 0) return 'there is no kick';
  return 'no kick overlaps a note for a whole cycle';
}
