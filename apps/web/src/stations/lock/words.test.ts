import { cleanSound, type Lock, type NoLock, type Rose, type Turn } from '@abyssal/core';
import type { Met } from './met';
import {
  actionWords,
  emptyWords,
  gainNumeral,
  heldWords,
  lineTurnWords,
  noRoseWords,
  placeWords,
  presentWords,
  turnWords,
} from './words';

const sound = cleanSound();
const lock = { kind: 'lock', sumGainDb: -1, bearingDeg: 40, noPhase: null } as Lock;
const met = (found: Met['meeting']['lock'], hits = 1, more = {}) =>
  ({
    note: { note: { pitch: 29, tie: false }, meetings: Array(hits).fill(0), spreadDeg: null, ...more },
    place: hits - 1,
    meeting: { lock: found },
  }) as unknown as Met;
const noLock = (reason: NoLock['reason']): NoLock => ({ kind: 'none', reason });

describe('what Lock says', () => {
  it('names a place by bar, beat and sixteenth', () => {
    expect([0, 480, 600, 1920, 2399.6].map(placeWords)).toEqual(['1.1', '1.2', '1.2.2', '2.1', '2.2']);
  });

  it('says what is missing where there is nothing to lay over each other', () => {
    const silent = { ...sound, line: { ...sound.line, notes: [] } };
    expect(emptyWords(sound, false)).toMatch(/Rendering/);
    expect(emptyWords(silent, true)).toMatch(/line is empty.*Line station/);
    expect(emptyWords({ ...sound, kick: { ...sound.kick, on: false } }, true)).toMatch(/no kick.*Ground/);
    expect(emptyWords(sound, true)).toMatch(/No kick overlaps/);
  });

  it('says why there is no rose, and nothing where there is one', () => {
    const rose = {} as Rose;
    expect(noRoseWords(sound, false, null, null)).toBe('measuring');
    expect(noRoseWords(sound, true, null, null)).toBe('no kick lands on a note');
    expect(noRoseWords(sound, true, met(noLock('no bass')), null)).toMatch(/bass/);
    expect(noRoseWords(sound, true, met(lock), null)).toBe('rendering the turns');
    expect(noRoseWords(sound, true, met(lock), rose)).toBeNull();
  });

  it('says which hit is looked at, and how far the phase of a held note strays', () => {
    expect(presentWords(met(lock))).toBe('note F1');
    expect(presentWords(met(lock, 3))).toBe('note F1, hit 3 of 3');
    expect(heldWords(met(lock, 1, { spreadDeg: 90 }))).toBeNull();
    expect(heldWords(met(lock, 4, { spreadDeg: 90.4 }))).toBe(
      'F1 is held over 4 hits: its phase differs by up to 90°.',
    );
  });

  it('offers a turn only where one is worth a click', () => {
    const turn = (turnDeg: number) => ({ turnDeg, worstSumGainDb: 1.26 }) as unknown as Turn;
    expect(turnWords(null, null, turn(40))).toBe('Turn');
    expect(turnWords(lock, {} as Rose, turn(0.3))).toBe('Already best');
    expect(lineTurnWords(null)).toBe('Best for the line');
    expect(lineTurnWords(turn(-30))).toBe('Best for the line −30°: +1.3 dB');
  });

  it('says what another change gives, and that a move of the groove is felt', () => {
    const gives = (grooveMs: number) =>
      actionWords('Nudge', { after: { worstSumGainDb: 2 }, takes: { grooveMs } } as never);
    expect(gives(0)).toBe('Nudge: +2.0 dB');
    expect(gives(40)).toBe('Nudge: +2.0 dB, felt');
  });

  it('shows a gain as a numeral, or what kick and bass have become', () => {
    const numeral = (after: object) => gainNumeral({ after, gainDb: 1.5 } as never);
    expect(numeral({ worstSumGainDb: 0, oneWave: 0 })).toBe('+1.5');
    expect(numeral({ worstSumGainDb: null, oneWave: 2 })).toBe('one wave');
    expect(numeral({ worstSumGainDb: null, oneWave: 0 })).toBe('apart');
  });
});
