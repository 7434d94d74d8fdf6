import { hertzText, marginText, missText, plain, signed } from './number-text.js';

describe('a number as text', () => {
  it('has its sign, with the typographic minus', () => {
    expect([signed(3.14), signed(-2.5), signed(12, 0), signed(-0.126, 2)]).toEqual([
      '+3.1',
      '−2.5',
      '+12',
      '−0.13',
    ]);
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
    expect([
      missText(0, { least: 0 }),
      missText(0.3, { least: 0 }),
      missText(-0.06, { least: 0 }),
      missText(null, { least: 0 }),
      missText(5, {}),
    ]).toEqual([null, null, null, null, null]);
  });
});

describe('how a value stands to its bounds', () => {
  it('says what is to spare within them, and the miss outside where the number hides it', () => {
    expect(marginText(-11.7, { least: -13, most: -9 }, 'LU')).toBe('1.3 LU to spare');
    expect(marginText(0.5, { most: 2 })).toBe('1.5 dB to spare');
    expect(marginText(2, { most: 2 })).toBe('just');
    expect(marginText(2.04, { most: 2 })).toBe('0.04 over');
    expect([marginText(3, { most: 2 }), marginText(null, { most: 2 }), marginText(3, {})]).toEqual([
      null,
      null,
      null,
    ]);
  });
});

it('frequencies are read in hertz and kilohertz', () => {
  expect([43.65, 999.4, 1000, 12500].map(hertzText)).toEqual(['44 Hz', '999 Hz', '1.0 kHz', '12.5 kHz']);
});
