import { hzToNote, nearestNote, noteName, noteToHz, parseNote } from './notes.js';
import { inScale, KEY_NAMES, parseKey, SCALE_NAMES, SCALES, scaleNotes } from './scales.js';
import { formatDivision, loopFrames, loopTicks, parseDivision, ticksToSeconds } from '../units/index.js';

describe('notes', () => {
  // MIDI 1.0 and equal temperament; E1, F1, G1, A1 as in any table of note frequencies.
  it.each([
    [28, 'E1', 41.203],
    [29, 'F1', 43.654],
    [31, 'G1', 48.999],
    [33, 'A1', 55],
    [60, 'C4', 261.626],
    [69, 'A4', 440],
  ])('note %i is %s at %f Hz', (note, name, hz) => {
    expect(noteName(note)).toBe(name);
    expect(parseNote(name)).toBe(note);
    expect(noteToHz(note)).toBeCloseTo(hz, 3);
    expect(hzToNote(hz)).toBeCloseTo(note, 3);
  });

  it('reads sharps and flats, and refuses what is no note', () => {
    expect(parseNote('g#4')).toBe(68);
    expect(parseNote('A♭4')).toBe(68);
    for (const text of ['H1', 'F', '1F', 'F##1', '']) expect(parseNote(text)).toBeNull();
  });

  it('tells how far a frequency lies from its note', () => {
    expect(nearestNote(440 * 2 ** (0.17 / 12))).toMatchObject({ name: 'A4' });
    expect(nearestNote(440 * 2 ** (-0.17 / 12)).cents).toBeCloseTo(-17, 6);
  });
});

describe('scales', () => {
  it('rise within the octave from the key', () => {
    for (const name of SCALE_NAMES) {
      expect(SCALES[name][0]).toBe(0);
      expect([...SCALES[name]].sort((a, b) => a - b)).toEqual([...SCALES[name]]);
    }
    expect(KEY_NAMES).toHaveLength(12);
  });

  it('fold F minor', () => {
    expect(scaleNotes('F', 'minor', 29, 41).map(noteName)).toEqual([
      'F1',
      'G1',
      'G♯1',
      'A♯1',
      'C2',
      'C♯2',
      'D♯2',
      'F2',
    ]);
    expect(inScale(30, 'F', 'minor')).toBe(false);
  });
});

describe('beats', () => {
  it('turns divisions into beats and back', () => {
    for (const text of ['1/1', '1/2', '1/4', '1/4T', '1/8.', '1/8', '1/8T', '1/16', '2/1'])
      expect(formatDivision(parseDivision(text)!)).toBe(text);
    expect(parseDivision('1/3')).toBeCloseTo(4 / 3, 12);
    expect(formatDivision(0.9)).toBeNull();
  });

  it('lasts two bars at 140 bpm for 3.43 s', () => {
    expect(loopTicks(2)).toBe(3840);
    expect(ticksToSeconds(3840, 140)).toBeCloseTo((8 * 60) / 140, 12);
    expect(loopFrames(2, 140, 48000)).toBe(164571);
  });
});

describe('a key that is typed', () => {
  it.each([
    ['c minor', 'C minor'],
    ['C# minor', 'C♯ minor'],
    ['f♯ Dorian', 'F♯ dorian'],
    ['gb minor', 'F♯ minor'],
    ['B♭ minor', 'A♯ minor'],
  ])('%s is %s', (typed, key) => {
    expect(parseKey(typed)).toBe(key);
  });
  it.each(['c', 'minor', 'h minor', 'c mino', 'trench growl', 'e# minor', ''])('%p is none', (typed) => {
    expect(parseKey(typed)).toBeNull();
  });
});
