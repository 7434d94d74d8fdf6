import fc from 'fast-check';
import { formatValue, frequencyAsNote, parseEntry } from './entry.js';
import { parameter, PARAMETERS } from './parameters.js';

const row = (id: string) => parameter(id);
const value = (id: string, text: string) => {
  const entry = parseEntry(row(id), text);
  return entry.ok ? entry.value : entry.message;
};
const CUTOFF = 'layers.*.filters.*.cutoffHz';
const RATE = 'movers.*.wobble.rateBeats';

describe('typed entry', () => {
  it.each([
    [CUTOFF, '420', 420],
    [CUTOFF, '1.2k', 1200],
    [CUTOFF, '1.2 kHz', 1200],
    [CUTOFF, ' 80hz ', 80],
    ['kick.levelDb', '-3dB', -3],
    ['kick.levelDb', '−3 dB', -3],
    ['kick.levelDb', '+1.5', 1.5],
    ['layers.*.voice.glideMs', '60ms', 60],
    ['layers.*.voice.glideMs', '0.2s', 200],
    [RATE, '1/4', 1],
    [RATE, '1/8', 0.5],
    [RATE, '1/8.', 0.75],
    [RATE, '3', 3],
    ['layers.*.tones.*.semitones', '1 oct', 12],
    ['layers.*.tones.*.cents', '0.5st', 50],
    ['line.notes.*.pitch', 'F1', 29],
    ['lock.turnDeg', '65°', 65],
    ['layers.*.loudness.sustainPct', '-6dB', 100 * 10 ** (-6 / 20)],
    ['layers.*.loudness.sustainPct', '0 dB', 100],
    ['layers.*.loudness.sustainPct', '40%', 40],
    [CUTOFF, '1,2 kHz', 1200],
    ['layers.*.tones.*.octave', '-1 oct', -1],
    ['layers.*.tones.*.octave', '2 octaves', 2],
    ['layers.*.tones.*.semitones', '−1 oct', -12],
    ['layers.*.tones.*.cents', '7 ct', 7],
    ['layers.*.panPct', 'L20', -20],
    ['layers.*.tones.*.panPct', 'r 35', 35],
    ['layers.*.panPct', 'C', 0],
    ['layers.*.panPct', 'centre', 0],
    ['layers.*.levelDb', '-inf', -60],
    ['kick.levelDb', '−∞ dB', -60],
    ['kick.levelDb', '-1,5', -1.5],
    [RATE, '1/4 triplet', 2 / 3],
    [RATE, 'dotted eighth', 0.75],
    [RATE, 'quarter note triplet', 2 / 3],
    [RATE, 'sixteenth', 0.25],
    [RATE, '1/8 dotted', 0.75],
    [RATE, '2 bars', 8],
    ['layers.*.tones.*.source.fm.oscillators.*.ratio', '0.5', 0.5],
    ['layers.*.filters.*.widthOct', '1.5 oct', 1.5],
  ])('%s reads %p as %p', (id, text, wanted) => {
    expect(value(id, text)).toBeCloseTo(wanted, 9);
  });

  it('takes decibels for amplitudes alone', () => {
    expect(value('layers.*.tones.*.spreadPct', '-6dB')).toMatch(/^Spread takes a share/);
  });

  // MIDI 1.0 note numbers, equal temperament from A4 = 440 Hz: G♯4 is 415.305 Hz.
  it('reads note names as frequencies', () => {
    expect(value(CUTOFF, 'G#4')).toBeCloseTo(415.305, 3);
    expect(value(CUTOFF, 'A♭4')).toBeCloseTo(415.305, 3);
    expect(parseEntry(row(CUTOFF), 'A4', 442)).toMatchObject({ value: 442 });
  });

  it('reads a triplet as two thirds', () => {
    expect(value(RATE, '1/8T')).toBeCloseTo(1 / 3, 12);
  });

  it('holds what is out of bounds to the bound, and says so', () => {
    expect(parseEntry(row(CUTOFF), '90000')).toEqual({ ok: true, value: 20000, held: true });
    expect(parseEntry(row(CUTOFF), '100')).toEqual({ ok: true, value: 100, held: false });
  });

  it.each(['', 'loud', '3 bananas', '1/0', '--3', 'NaN', 'Infinity', '1e999'])(
    'refuses %p with a sentence',
    (text) => {
      expect(parseEntry(row(CUTOFF), text)).toEqual({
        ok: false,
        message: 'Cutoff takes a frequency such as 420, 1.2k or G#4, from 20 Hz to 20 kHz',
      });
    },
  );

  it.each([
    [CUTOFF, 420, '420 Hz'],
    [CUTOFF, 1234, '1.23 kHz'],
    ['kick.levelDb', -3, '−3.0 dB'],
    [RATE, 1 / 3, '1/8T'],
    [RATE, 0.75, '1/8.'],
    [RATE, 0.9, '0.9 beats'],
    ['line.notes.*.pitch', 29, 'F1'],
    ['layers.*.voice.glideMs', 1500, '1.5 s'],
  ])('%s writes %p as %p', (id, given, wanted) => {
    expect(formatValue(row(id), given)).toBe(wanted);
  });

  it('reads back what it writes, for every row', () => {
    fc.assert(
      fc.property(fc.constantFrom(...PARAMETERS), fc.double({ min: 0, max: 1, noNaN: true }), (r, at) => {
        const given = r.whole ? Math.round(r.min + at * (r.max - r.min)) : r.min + at * (r.max - r.min);
        const entry = parseEntry(r, formatValue(r, given));
        expect(entry.ok).toBe(true);
        if (entry.ok)
          expect(Math.abs(entry.value - given)).toBeLessThanOrEqual(Math.max(0.06, 0.006 * Math.abs(given)));
      }),
      { numRuns: 400 },
    );
  });

  it('names the nearest note', () => {
    expect(frequencyAsNote(440)).toBe('A4');
    expect(frequencyAsNote(45.8)).toBe('F♯1 −17 ct');
  });
});
