import { cleanMover } from '../../document/index.js';
import { moving } from '../../testing/moving.js';
import { chanceOf } from './chance.js';

describe('what a note says', () => {
  it('is its touch, its key against the root, its accent, a chance of its own, along a curve', () => {
    const touch = moving([cleanMover('touch')]);
    expect(touch.note({ velocity: 127 })).toBe(1);
    expect(touch.note({ velocity: 64 })).toBeCloseTo(64 / 127, 9);
    const key = moving([cleanMover('key')]);
    // F1 is the root of the sound: in the middle; two octaves up all the way up.
    expect([29, 41, 53, 60, 17, 5].map((pitch) => key.note({ pitch }))).toEqual([0.5, 0.75, 1, 1, 0.25, 0]);
    const accent = moving([cleanMover('accent')]);
    expect([accent.note({ accent: true }), accent.note()]).toEqual([1, 0]);
    const bent = moving([cleanMover('touch', { bend: 1 })]);
    expect(bent.note({ velocity: 64 })).toBeLessThan(0.1);
  });

  it('by chance is the same for a note of the line each time round, and new for a live one', () => {
    const it = moving([cleanMover('chance')]);
    const first = [1, 2, 3].map((source) => it.note({ source, number: source }));
    expect([1, 2, 3].map((source) => it.note({ source, number: source }))).toEqual(first);
    expect(new Set(first).size).toBe(3);
    expect(it.note({ source: 9 })).not.toBe(it.note({ source: 9 }));
    expect(it.note({ source: 2, number: 2 })).toBe(first[1]);
    const before = it.bank.value[0];
    expect(it.note({ source: 7, number: 7, tie: true })).toBe(before);
  });

  it('by chance is even over its range', () => {
    const out = new Float64Array(1);
    const tenths = new Array<number>(10).fill(0);
    for (let place = 0; place < 20000; place++) {
      chanceOf(7, 3, place, out);
      tenths[Math.floor(out[0] * 10)]++;
    }
    // Chi-square with nine degrees of freedom: 27.9 is passed once in a thousand (standard tables).
    const chi = tenths.reduce((sum, n) => sum + (n - 2000) ** 2 / 2000, 0);
    expect(chi).toBeLessThan(27.9);
  });
});
