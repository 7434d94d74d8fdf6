import { missText, plain, signed } from './number-text.js';

describe('a number as text', () => {
  it('has its sign, with the typographic minus', () => {
    expect([signed(3.14), signed(-2.5), signed(12, 0), signed(-0.126, 2)]).toEqual(['+3.1', '−2.5', '+12', '−0.13']);
    expect([plain(3.14), plain(-2.5), plain(-7, 0)]).toEqual(['3.1', '−2.5', '−7']);
  });

  it('has none where it rounds to nothing', () => {
    expect([signed(0), signed(-0.04), signed(0.04), plain(-0.4, 0)]).toEqual(['0.0', '0.0', '0.0', '0']);
  });
});

describe('a miss that the text does not show', () => {
  it('is told by how much, under or over', () => {
    expect(missText(-0.02, { least: 0 })).toBe('0.02 under');
    expect(missText(-0.003, { least: 0 })).toBe('0.003 under');
    expect(missText(2.04, { most: 2 })).toBe('0.04 over');
    expect(missText(-6.4, { least: -6, most: 3 }, 0)).toBe('0.4 under');
  });

  it('is none where the bound is met, or the number itself shows it', () => {
    expect([missText(0, { least: 0 }), missText(0.3, { least: 0 }), missText(-0.06, { least: 0 }), missText(null, { least: 0 }), missText(5, {})]).toEqual([null, null, null, null, null]);
  });
});
