import { CycleBank, LEVELS, sineSpectrum } from '../index.js';
import { SELECT_HZ, SELECT_NUMBERS, SELECT_POSITION, SELECT_SHIFT, TableSelector } from './table-selector.js';

const RATE = 48000;
/** A bank of frames, each one sine of a level of its own. */
const bankOf = (levels: readonly number[]) =>
  new CycleBank(
    levels.map((level) => sineSpectrum((n) => (n === 1 ? level : 0), 4)),
    { limitHz: 24000, least: 256 },
  );
const wanted = (hz: number, position: number, shift = 0) => {
  const w = new Float64Array(SELECT_NUMBERS);
  w[SELECT_SHIFT] = shift;
  w[SELECT_HZ] = hz;
  w[SELECT_POSITION] = position;
  return w;
};
/** Height of what is read at the start and the end of the step. */
const heights = ({ a, b, weight }: TableSelector) =>
  [0, 1].map((end) => {
    const k = (a.length - 1) / 4;
    return a[k] + weight[end] * (b[k] - a[k]);
  });

describe('the choice of tables', () => {
  it('takes one table where there is one frame, the level by the pitch', () => {
    const selector = new TableSelector(bankOf([0.5]), RATE);
    selector.select(wanted(100, 0), 16);
    expect(selector.a).toBe(selector.b);
    expect(heights(selector)[1]).toBeCloseTo(0.5, 3);
  });

  it('begins at its place, moves evenly, and ends a step at each frame it passes', () => {
    const selector = new TableSelector(bankOf([0, 1, 0, 1]), RATE);
    selector.select(wanted(100, 0.2 / 3), 16);
    expect(heights(selector).map((h) => Number(h.toFixed(3)))).toEqual([0.2, 0.2]);
    selector.select(wanted(100, 0.9 / 3), 16);
    expect(heights(selector).map((h) => Number(h.toFixed(3)))).toEqual([0.2, 0.9]);
    selector.select(wanted(100, 1.4 / 3), 16);
    expect(heights(selector).map((h) => Number(h.toFixed(3)))).toEqual([0.9, 1]);
    selector.select(wanted(100, 1.4 / 3), 16);
    expect(heights(selector).map((h) => Number(h.toFixed(3)))).toEqual([1, 0.6]);
    selector.select(wanted(100, 0.7 / 3), 16);
    expect(heights(selector).map((h) => Number(h.toFixed(3)))).toEqual([0.6, 1]);
  });

  it('never jumps, however fast it moves', () => {
    const selector = new TableSelector(bankOf(Array.from({ length: 32 }, (_, i) => Math.sin(i))), RATE);
    let last: number | null = null;
    for (let i = 0; i < 600; i++) {
      selector.select(wanted(100, 0.5 + 0.5 * Math.sin(i * i * 0.0007)), 16);
      const [from, to] = heights(selector);
      if (last !== null) expect(from).toBeCloseTo(last, 4);
      last = to;
    }
  });

  it('makes one table of a mixture once it has stood still, and the same is read', () => {
    const selector = new TableSelector(bankOf([0, 1]), RATE);
    for (let i = 0; i < 12; i++) selector.select(wanted(100, 0.37), 16);
    expect(selector.a).toBe(selector.b);
    expect(heights(selector)[1]).toBeCloseTo(0.37, 3);
    const kept = selector.a;
    selector.select(wanted(100, 0.37), 16);
    expect(selector.a).toBe(kept);
  });

  it('passes over to other cycles within a few milliseconds', () => {
    const selector = new TableSelector(bankOf([1]), RATE);
    selector.select(wanted(100, 0), 16);
    selector.setBank(bankOf([0.25]));
    const seen: number[] = [];
    for (let i = 0; i < 50; i++) {
      selector.select(wanted(100, 0), 16);
      seen.push(heights(selector)[1]);
    }
    expect(seen[0]).toBeGreaterThan(0.95);
    expect(seen[17]).toBeLessThan(0.7);
    expect(seen[49]).toBeCloseTo(0.25, 3);
    seen.slice(1).forEach((h, i) => {
      expect(Math.abs(h - seen[i])).toBeLessThan(0.05);
    });
  });

  it('makes tables ahead of their need, one at a time, until none is missing near by', () => {
    const bank = bankOf([0, 1, 0, 1, 0, 1, 0, 1]);
    const selector = new TableSelector(bank, RATE);
    selector.select(wanted(100, 0), 16);
    let made = 0;
    while (selector.prefetch()) expect(++made).toBeLessThan(100);
    const level = bank.levelFor(100);
    expect(
      [0, 1, 2, 3].map((frame) => [level - 1, level, level + 1].every((l) => bank.has(frame, l))),
    ).toEqual([true, true, true, true]);
    expect(bank.has(7, level)).toBe(false);
    expect(bank.has(0, LEVELS - 1)).toBe(false);
  });
});
