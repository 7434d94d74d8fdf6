import { cleanMover, type MoverOf } from '../../document/index.js';
import { last, moving, parts } from '../../testing/moving.js';
import { BY_KICK, BY_NOTE, BY_PART } from './mover-kind.js';

const RATE = 48000;

describe('a follower', () => {
  const follower = (set: Partial<MoverOf<'follower'>> = {}) =>
    cleanMover('follower', { attackMs: 20, releaseMs: 100, floorDb: -40, ...set });

  // y rises as 1 − e^(−t/τ) and falls as e^(−t/τ) for a level that jumps (Giannoulis, Massberg and Reiss 2012).
  it('rises and falls by its time constants, in decibels above its floor', () => {
    const it = moving([follower()]);
    const share = (level: number) => Math.max(0, 1 + (20 * Math.log10(level)) / 40);
    it.bank.inputs.levels[BY_KICK] = 1;
    const up = it.run(0.2);
    [0.01, 0.02, 0.05, 0.1].forEach((t) => {
      expect(up[Math.round((t * RATE) / 16) - 1]).toBeCloseTo(share(1 - Math.exp(-t / 0.02)), 3);
    });
    it.bank.inputs.levels[BY_KICK] = 0;
    const down = it.run(0.6);
    [0.05, 0.1, 0.3].forEach((t) => {
      expect(down[Math.round((t * RATE) / 16) - 1]).toBeCloseTo(share(Math.exp(-t / 0.1)), 3);
    });
    expect(last(down)).toBe(0);
  });

  it('is raised by its gain, and follows the part or the layer it is told to', () => {
    for (const [of, by] of [
      ['self', BY_NOTE],
      ['haze', BY_PART + 1],
    ] as const) {
      const it = moving([follower({ of, gainDb: 10 })], [], { patch: parts('drums', 'haze') });
      it.bank.inputs.levels[by] = 10 ** (-20 / 20);
      expect(last(it.run(1))).toBeCloseTo(0.75, 3);
      it.bank.inputs.levels[by] = 0;
      it.bank.inputs.levels[BY_KICK] = 1;
      expect(last(it.run(2))).toBe(0);
    }
  });

  it('as a gate opens above its threshold', () => {
    const it = moving([follower({ gate: true, thresholdDb: -12, attackMs: 1 })]);
    it.bank.inputs.levels[BY_KICK] = 10 ** (-13 / 20);
    expect(last(it.run(0.1))).toBe(0);
    it.bank.inputs.levels[BY_KICK] = 10 ** (-11 / 20);
    expect(last(it.run(0.05))).toBeCloseTo(1, 6);
  });
});
