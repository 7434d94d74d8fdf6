import { endsOf, formatReach, parseReach } from './reach.js';
import { parameter } from './parameters.js';

const cutoff = parameter('layers.*.filters.*.cutoffHz');
const level = parameter('layers.*.levelDb');
const cents = parameter('layers.*.tones.*.cents');
const pct = (row: Parameters<typeof parseReach>[0], text: string) => {
  const found = parseReach(row, text);
  return found.ok ? found.pct : null;
};

describe('a reach', () => {
  it('is told in octaves on what runs by ratios, else in the unit of its row', () => {
    // 20 Hz to 20 kHz are 9.966 octaves; −60 to 12 dB are 72.
    expect(formatReach(cutoff, 25)).toBe('+2.49 oct');
    expect(formatReach(level, -50)).toBe('−36.0 dB');
    expect(formatReach(parameter('movers.*.wobble.amountPct'), 30)).toBe('+30.0 %');
  });

  it('is typed in that unit, in per cent, in semitones, with or without a sign or a space', () => {
    expect(pct(cutoff, '2 oct')).toBeCloseTo(20.07, 2);
    expect(pct(cutoff, '-24st')).toBeCloseTo(-20.07, 2);
    expect(pct(cutoff, '40%')).toBe(40);
    expect(pct(level, '−6 dB')).toBeCloseTo((-100 * 6) / 72, 3);
    expect(pct(level, '7,2')).toBeCloseTo(10, 9);
    expect(pct(cents, '1 st')).toBeCloseTo((100 * 100) / (cents.max - cents.min), 3);
  });

  it('means nothing in another unit, and is held to the whole range', () => {
    expect(parseReach(level, '2 oct')).toEqual({
      ok: false,
      message: 'Type a reach such as 25% or +18.0 dB.',
    });
    expect(parseReach(level, 'much')).toMatchObject({ ok: false });
    expect(parseReach(cutoff, '20 oct')).toEqual({ ok: true, pct: 100, held: true });
  });

  it('runs from the value, to both sides of it, or from where it is told to', () => {
    expect(endsOf({ reachPct: 25, fromPct: 0, way: 'one way' })).toEqual([0, 0.25]);
    expect(endsOf({ reachPct: -25, fromPct: 10, way: 'both ways' })).toEqual([0.25, -0.25]);
    expect(endsOf({ reachPct: 25, fromPct: -50, way: 'one way' })).toEqual([-0.5, 0.25]);
  });
});
