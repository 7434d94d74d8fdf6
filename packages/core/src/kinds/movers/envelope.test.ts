import { cleanMover, type MoverOf } from '../../document/index.js';
import { last, moving, parts } from '../../testing/moving.js';
import { BY_KICK, BY_PART } from './mover-kind.js';

const RATE = 48000;

describe('an envelope', () => {
  const times = {
    attackMs: 10,
    decayMs: 20,
    holdMs: 5,
    delayMs: 5,
    attackBend: 0,
    decayBend: 0,
    releaseBend: 0,
    releaseMs: 40,
  };
  const envelope = (set: Partial<MoverOf<'envelope'>> = {}) =>
    cleanMover('envelope', { ...times, sustainPct: 50, ...set });
  const at = (values: readonly number[], ms: number) => values[Math.round((ms * RATE) / 16000) - 1];

  it('waits, rises, holds, falls and stands; a tie does not start it anew', () => {
    const it = moving([envelope()]);
    it.note();
    const values = it.run(0.06);
    expect(at(values, 5)).toBeCloseTo(0, 6);
    expect(at(values, 10)).toBeCloseTo(0.5, 1);
    expect(at(values, 18)).toBe(1);
    expect(at(values, 30)).toBeCloseTo(0.75, 1);
    expect(at(values, 50)).toBe(0.5);
    it.note({ tie: true });
    expect(last(it.run(0.01))).toBe(0.5);
  });

  it('goes round and round while a note is held, and ends with it', () => {
    // Delay, attack, hold and decay take 40 ms: with the second round it is where it was in the first.
    const it = moving([envelope({ loop: 'held' })]);
    it.note();
    const values = it.run(0.2);
    expect(at(values, 78)).toBeCloseTo(at(values, 118), 2);
    expect(Math.max(...values.slice(Math.round((0.09 * RATE) / 16)))).toBe(1);
    it.bank.noteOff();
    const after = it.run(0.05);
    expect(Math.max(...after.slice(1).map((value, i) => value - after[i]))).toBeLessThanOrEqual(0);
    expect(last(after)).toBe(0);
  });

  it('goes round always, past notes and their ends', () => {
    const it = moving([envelope({ loop: 'always' })]);
    const alone = it.run(0.2);
    expect(Math.max(...alone)).toBe(1);
    it.note();
    it.bank.noteOff();
    expect(Math.max(...it.run(0.05))).toBe(1);
  });

  it('is started by the kick or a backing part, and by nothing else; nothing holds it then', () => {
    for (const [startedBy, by] of [
      ['kick', BY_KICK],
      ['haze', BY_PART + 1],
    ] as const) {
      const it = moving([envelope({ startedBy })], [], { patch: parts('drums', 'haze') });
      it.note();
      it.bank.struck(BY_PART, -1);
      expect(Math.max(...it.run(0.05))).toBe(0);
      it.bank.struck(by, -1);
      const values = it.run(0.1);
      expect(Math.max(...values)).toBe(1);
      expect(at(values, 60)).toBeGreaterThan(0.2);
      expect(last(values)).toBe(0);
    }
  });

  it('starts from the level it has reached', () => {
    const it = moving([envelope({ delayMs: 0 })]);
    it.note();
    const before = last(it.run(0.05));
    it.note();
    expect(Math.abs(it.run(0.0004)[0] - before)).toBeLessThan(0.05);
  });
});
