import { cleanSound, type Lock, type NoLock, type NoteLevels } from '@abyssal/core';
import { bearings, hitTick, meetingsOf, worstPlace, type Met } from './met';

const lock = (sumGainDb: number, bearingDeg: number | null = 0) =>
  ({ kind: 'lock', sumGainDb, bearingDeg, noPhase: null }) as Lock;
const beating = { ...lock(0, null), noPhase: { cause: 'different pitches' } } as Lock;
const met = (found: Lock | NoLock): Met => ({ meeting: { lock: found, hit: 0 } }) as Met;
const noLock = (reason: NoLock['reason']): NoLock => ({ kind: 'none', reason });

describe('the meetings of a line', () => {
  it('come in order of the notes, and of the hits of each', () => {
    const notes = [{ meetings: [1, 2] }, { meetings: [] }, { meetings: [3] }] as unknown as NoteLevels[];
    expect(meetingsOf(notes).map(({ index, place, meeting }) => [index, place, meeting])).toEqual([
      [0, 0, 1],
      [0, 1, 2],
      [2, 0, 3],
    ]);
  });

  it('have a worst: what cancels most, then what beats, then what adds; never what cannot cancel', () => {
    expect(worstPlace([])).toBe(-1);
    expect(worstPlace([met(lock(1)), met(lock(-4)), met(lock(-2))])).toBe(1);
    expect(worstPlace([met(lock(1)), met(beating), met(noLock('no bass'))])).toBe(1);
    expect(worstPlace([met(noLock('one wave')), met(lock(2.9))])).toBe(1);
    // The first of equals: the choice must not jump about.
    expect(worstPlace([met(lock(-1)), met(lock(-1))])).toBe(0);
  });

  it('have bearings only where there is a common phase', () => {
    expect(bearings([met(lock(1, 30)), met(noLock('no kick')), met(beating), met(lock(0, -170))])).toEqual([
      30, -170,
    ]);
  });

  it('stand where the swung hit falls', () => {
    const sound = cleanSound();
    const hits = [
      { tick: 0, velocity: 100 },
      { tick: 120, velocity: 100 },
    ];
    const straight = { ...sound, kick: { ...sound.kick, hits, swingPct: 50 } };
    expect(hitTick(straight, { hit: 1 } as never)).toBe(120);
    expect(
      hitTick({ ...straight, kick: { ...straight.kick, swingPct: 66 } }, { hit: 1 } as never),
    ).toBeGreaterThan(120);
    expect(hitTick(straight, { hit: 9 } as never)).toBe(0);
  });
});
