import { isLock, standingOf, swung, type Meeting, type NoteLevels, type SoundDocument } from '@abyssal/core';

/** A note with one of its meetings with a hit, and the places of both. */
export interface Met {
  readonly note: NoteLevels;
  readonly index: number;
  readonly meeting: Meeting;
  readonly place: number;
}

/** Every meeting of a line, in order of the notes. */
export function meetingsOf(notes: readonly NoteLevels[]): Met[] {
  return notes.flatMap((note, index) =>
    note.meetings.map((meeting, place) => ({ note, index, meeting, place })),
  );
}

/** Place of the worst meeting of a line; −1 where there is none. */
export function worstPlace(met: readonly Met[]): number {
  return met.reduce(
    (worst, { meeting }, i) =>
      worst < 0 || standingOf(meeting.lock) < standingOf(met[worst].meeting.lock) ? i : worst,
    -1,
  );
}

/** Where a meeting's hit falls, in ticks of the loop. */
export function hitTick({ kick }: SoundDocument, { hit }: Meeting): number {
  return swung(kick.hits[hit]?.tick ?? 0, kick.swingPct);
}

/** Bearings of meetings, as measured. */
export const bearings = (met: readonly Met[]) =>
  met.flatMap(({ meeting: { lock } }) => (isLock(lock) && lock.bearingDeg !== null ? [lock.bearingDeg] : []));
