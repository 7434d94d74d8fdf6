import { plain, signed } from './number-text.js';

describe('a number as text', () => {
  it('has its sign, with the typographic minus', () => {
    expect([signed(3.14), signed(-2.5), signed(12, 0), signed(-0.126, 2)]).toEqual(['+3.1', '−2.5', '+12', '−0.13']);
    expect([plain(3.14), plain(-2.5), plain(-7, 0)]).toEqual(['3.1', '−2.5', '−7']);
  });

  it('has none where it rounds to nothing', () => {
    expect([signed(0), signed(-0.04), signed(0.04), plain(-0.4, 0)]).toEqual(['0.0', '0.0', '0.0', '0']);
  });
});
