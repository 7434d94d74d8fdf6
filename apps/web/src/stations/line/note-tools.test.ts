import { cleanNote, cleanSound, findProblems, loopTicks, type LineNote } from '@abyssal/core';
import fc from 'fast-check';
import {
  asPlayed,
  copied,
  duplicated,
  gapped,
  joined,
  legato,
  nearestOnGrid,
  pasted,
  quantised,
  split,
  START_LINES,
  startLine,
  stretched,
} from './note-tools';

const note = (tick: number, ticks: number, more: Partial<LineNote> = {}) =>
  cleanNote({ tick, ticks, ...more });
const all = (notes: readonly LineNote[]) => new Set(notes.keys());
const places = (notes: readonly LineNote[]) => notes.map(({ tick, ticks }) => [tick, ticks]);
const straight = { gridTicks: 120, strength: 1, swing: 0.5, ends: false };

describe('quantising', () => {
  const played = [note(7, 100), note(113, 90), note(245, 130)];

  it('moves starts to the grid, ends as well where it is asked to, by its strength', () => {
    expect(places(quantised(played, all(played), straight, 1))).toEqual([
      [0, 100],
      [120, 90],
      [240, 130],
    ]);
    expect(places(quantised(played, all(played), { ...straight, ends: true }, 1))).toEqual([
      [0, 120],
      [120, 120],
      [240, 120],
    ]);
    expect(places(quantised(played, all(played), { ...straight, strength: 0.5 }, 1))[0]).toEqual([4, 100]);
  });

  it('knows triplets and swing', () => {
    expect(nearestOnGrid(150, { gridTicks: 160, swing: 0.5 })).toBe(160);
    // 66 % of a pair of two sixteenths.
    expect(nearestOnGrid(130, { gridTicks: 120, swing: 0.66 })).toBeCloseTo(158.4, 9);
    expect(nearestOnGrid(230, { gridTicks: 120, swing: 0.66 })).toBe(240);
  });

  it('keeps where notes were played, however often it is done, and puts them back', () => {
    const once = quantised(played, all(played), straight, 1);
    const twice = quantised(once, all(once), { ...straight, gridTicks: 480 }, 1);
    expect(asPlayed(twice, all(twice))).toEqual(played);
  });

  it('takes what was played just before the end for the start', () => {
    const late = [note(1915, 5)];
    expect(places(quantised(late, all(late), straight, 1))).toEqual([[0, 5]]);
  });
});

describe('edits of chosen notes', () => {
  const line = [note(0, 240), note(480, 120, { pitch: 31 }), note(720, 240)];

  it('copy, paste and duplicate keep their times to each other, and stay within the loop', () => {
    expect(places(copied(line, new Set([1, 2])))).toEqual([
      [0, 120],
      [240, 240],
    ]);
    expect(places(pasted(line, copied(line, new Set([1, 2])), 1680, 1).notes.slice(3))).toEqual([
      [1680, 120],
    ]);
    const twice = duplicated(line, all(line), 120, 1);
    expect(places(twice.notes.slice(3))).toEqual([
      [960, 240],
      [1440, 120],
      [1680, 240],
    ]);
    expect(twice.chosen).toEqual(new Set([3, 4, 5]));
  });

  it('stretch and halve the time, close and open gaps', () => {
    expect(places(stretched(line, all(line), 0.5, 1))).toEqual([
      [0, 120],
      [240, 60],
      [360, 120],
    ]);
    expect(places(stretched(line, all(line), 2, 1))).toEqual([
      [0, 480],
      [960, 240],
      [1440, 480],
    ]);
    expect(places(legato(line, all(line)))).toEqual([
      [0, 480],
      [480, 240],
      [720, 240],
    ]);
    // 12.5 ms at 120 bpm are 12 ticks.
    const closed = legato(line, all(line));
    expect(places(gapped(closed, all(closed), 12.5, 120))).toEqual([
      [0, 468],
      [480, 228],
      [720, 240],
    ]);
  });

  it('split at the grid, and join what is of one pitch', () => {
    const parts = split([note(0, 480)], new Set([0]), 120);
    expect(places(parts.notes)).toEqual([
      [0, 240],
      [240, 240],
    ]);
    expect(joined(parts.notes, parts.chosen).notes).toEqual([note(0, 480)]);
    expect(joined(line, all(line)).notes.map(({ pitch, ticks }) => [pitch, ticks])).toEqual([
      [29, 960],
      [31, 120],
    ]);
  });

  it('are lines that the document takes, whatever is done to them', () => {
    const edits = fc.array(
      fc.record({ what: fc.nat({ max: 7 }), chosen: fc.array(fc.nat({ max: 40 }), { minLength: 1 }) }),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(edits, fc.constantFrom(...START_LINES), (list, which) => {
        let notes = startLine(which, 'F', 2);
        for (const { what, chosen } of list) {
          const mine = new Set(chosen.map((i) => i % Math.max(1, notes.length)));
          if (notes.length === 0) break;
          if (what === 0) notes = quantised(notes, mine, { ...straight, ends: true, swing: 0.6 }, 2);
          if (what === 1) ({ notes } = duplicated(notes, mine, 120, 2));
          if (what === 2) notes = stretched(notes, mine, 2, 2);
          if (what === 3) notes = stretched(notes, mine, 0.5, 2);
          if (what === 4) notes = legato(notes, mine);
          if (what === 5) notes = gapped(notes, mine, 20, 140);
          if (what === 6) ({ notes } = split(notes, mine, 120));
          if (what === 7) ({ notes } = joined(notes, mine));
          expect(findProblems({ ...cleanSound(), line: { notes } })).toEqual([]);
        }
      }),
      { numRuns: 80 },
    );
  });
});

describe('lines to begin from', () => {
  it.each(START_LINES)('%s fills the loop and lies in the key', (which) => {
    for (const bars of [1, 2, 16]) {
      const notes = startLine(which, 'A', bars);
      expect(notes.length).toBeGreaterThan(0);
      expect(Math.max(...notes.map(({ tick, ticks }) => tick + ticks))).toBeGreaterThan(
        0.6 * loopTicks(bars),
      );
      expect(
        findProblems({
          ...cleanSound(),
          ground: { ...cleanSound().ground, bars },
          kick: { ...cleanSound().kick, hits: [] },
          line: { notes },
        }),
      ).toEqual([]);
    }
  });
});
