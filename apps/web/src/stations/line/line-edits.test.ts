import { cleanNote, inScale } from '@abyssal/core';
import { foldNotes, semitonesBetween, transposeNotes } from './line-edits';

const notes = (...pitches: number[]) =>
  pitches.map((pitch, i) => cleanNote({ tick: 240 * i, ticks: 240, pitch }));
const pitches = (line: readonly { pitch: number }[]) => line.map(({ pitch }) => pitch);

describe('a line under another key', () => {
  it('goes the shorter way', () => {
    expect([
      semitonesBetween('F', 'G'),
      semitonesBetween('G', 'F'),
      semitonesBetween('C', 'B'),
      semitonesBetween('C', 'F♯'),
    ]).toEqual([2, -2, -1, 6]);
  });

  it('is transposed as a whole, and stays in the new scale', () => {
    const line = notes(29, 32, 36, 41);
    const moved = transposeNotes(line, semitonesBetween('F', 'A'));
    expect(pitches(moved)).toEqual([33, 36, 40, 45]);
    expect(moved.every(({ pitch }) => inScale(pitch, 'A', 'minor'))).toBe(true);
    expect(moved.map(({ tick, ticks }) => [tick, ticks])).toEqual(
      line.map(({ tick, ticks }) => [tick, ticks]),
    );
  });

  it('is folded to the nearest notes of the scale, of two as near the deeper', () => {
    // A♭ lies between G and A, F♯ between F and G: C major.
    expect(pitches(foldNotes(notes(24, 32, 30, 35), 'C', 'major'))).toEqual([24, 31, 29, 35]);
  });

  it('never leaves the range', () => {
    expect(pitches(transposeNotes(notes(12, 96), -3))).toEqual([21, 93]);
    expect(pitches(transposeNotes(notes(12, 96), 4))).toEqual([16, 88]);
  });
});
