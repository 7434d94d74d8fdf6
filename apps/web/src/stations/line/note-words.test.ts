import { cleanNote, cleanSound, type Lock, type NoLock, type NoteLock } from '@abyssal/core';
import { missedWords, noteWords } from './note-words';

const { targets } = cleanSound();
const lock = (sumGainDb: number, more: Partial<Lock> = {}): Lock => ({
  kind: 'lock',
  sumGainDb,
  bestSumGainDb: 3,
  coherence: 1,
  energies: { kick: 1, bass: 1, re: 0, im: 0 },
  bearingDeg: 10,
  bestTurnDeg: -10,
  nudgeMs: 0,
  noPhase: null,
  ...more,
});
const standing = (found: NoteLock['lock'], hits = 1): NoteLock => ({
  note: cleanNote(),
  meetings: Array.from({ length: hits }, (_, hit) => ({
    hit,
    hitFrame: 0,
    from: 0,
    to: 1,
    within: true,
    lock: found,
    overlap: 1,
    phasePitch: 36,
  })),
  worst: 0,
  lock: found,
  overlap: 1,
  spreadDeg: null,
});
const words = (found?: NoteLock) =>
  noteWords(cleanNote({ pitch: 29, tick: 480, ticks: 240, velocity: 90 }), false, found, targets);
const noLock = (reason: NoLock['reason']): NoLock => ({ kind: 'none', reason });

describe('a note that is read out', () => {
  it('says pitch, place, length and velocity, and what else it is', () => {
    expect(words()).toBe('F1 at 1.2, 0.50 beats, velocity 90');
    expect(
      noteWords(cleanNote({ pitch: 30, tick: 2040, accent: true, tie: true }), true, undefined, targets),
    ).toMatch(/^F♯1 at 2\.1 and 0\.25 beats, .*, outside the scale, accent, tied$/);
  });

  it('says how it stands to the kick, by the worst of several hits', () => {
    expect(words(standing(lock(1.24)))).toMatch(/, sum gain with the kick 1\.2 dB$/);
    expect(words(standing(lock(-2), 3))).toMatch(/ -2\.0 dB at the worst of 3 hits$/);
    expect(words({ ...standing(lock(0)), meetings: [] })).not.toMatch(/kick/);
  });

  it('says why there is none', () => {
    expect(words(standing(noLock('kept apart')))).toMatch(/, \S/);
    const reasons = (['no bass', 'too short', 'one wave'] as const).map((reason) =>
      words(standing(noLock(reason))),
    );
    expect(new Set(reasons).size).toBe(3);
    const apart = { cause: 'different pitches', kickHz: 50, bassHz: 60 } as never;
    expect(words(standing(lock(0, { noPhase: apart })))).toMatch(/beats against the kick$/);
  });

  it('says by how much it misses where its number does not show it', () => {
    expect(missedWords(targets.sumGainDb - 0.004, targets)).toBe(', 0.004 under');
    expect(missedWords(targets.sumGainDb - 1, targets)).toBe('');
    expect(missedWords(targets.sumGainDb, targets)).toBe('');
  });
});
