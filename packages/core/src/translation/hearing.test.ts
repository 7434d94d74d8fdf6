import {
  auditoryWidthHz,
  densitiesOf,
  equalLoudnessDb,
  hearingThresholdDb,
  noiseWithinDb,
} from './hearing.js';

describe('hearing', () => {
  // ISO 226:2003, from memory: checks of the design's measures.
  it.each([
    [20, 99.85],
    [40, 82.63],
    [63, 73.08],
    [100, 64.37],
  ])('a tone of %d Hz is as loud as 40 phon at %d dB', (hz, db) => {
    expect(equalLoudnessDb(hz, 40)).toBeCloseTo(db, 1);
  });

  it('reads its own phon at 1 kHz', () => {
    for (const phon of [20, 40, 60, 80, 90])
      expect(Math.abs(equalLoudnessDb(1000, phon) - phon)).toBeLessThan(0.05);
  });

  it('has its threshold in the table, evenly over the logarithm between two, and at its ends beyond them', () => {
    expect(hearingThresholdDb(63)).toBe(37.5);
    expect(hearingThresholdDb(Math.sqrt(1000 * 1250))).toBeCloseTo((2.4 + 3.5) / 2, 9);
    expect(hearingThresholdDb(10)).toBe(78.5);
    expect(hearingThresholdDb(16000)).toBe(12.3);
  });

  // Glasberg and Moore (1990): 132.6 Hz at 1 kHz, 35.5 at 100 Hz.
  it('filters by equivalent rectangular bandwidths', () => {
    expect(auditoryWidthHz(1000)).toBeCloseTo(132.64, 2);
    expect(auditoryWidthHz(100)).toBeCloseTo(35.49, 2);
  });

  it('hears of a noise what falls into its filter: an octave of 30 dB at 1 kHz is 30 − 10·log10(707.1) + 10·log10(132.6)', () => {
    const octaves = [57, 48, 40, 33, 26, 30, 19, 17, 16, 15];
    expect(noiseWithinDb(densitiesOf(octaves), 1000)).toBeCloseTo(30 - 28.495 + 21.227, 2);
  });
});
