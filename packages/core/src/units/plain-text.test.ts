import fc from 'fast-check';
import { plainText } from './plain-text.js';

describe('a text as a document takes it', () => {
  it('is cut between characters, never within one', () => {
    expect(plainText('ab🌊cd', 3)).toBe('ab');
    expect(plainText('ab🌊cd', 4)).toBe('ab🌊');
    expect(plainText('Tiefe – Växjö')).toBe('Tiefe – Växjö');
  });

  it('has nothing in it that prints nothing', () => {
    expect(plainText('one\ntwo\u0000')).toBe('one two ');
    expect(plainText('\ud83d half')).toBe(' half');
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), fc.string(), fc.nat(20), (a, b, most) => {
        const text = plainText(`${a}\ud800${b}`, most);
        expect(text).not.toMatch(/\p{Cc}|\p{Cs}/u);
        expect(text.length).toBeLessThanOrEqual(most);
        expect(plainText(text, most)).toBe(text);
      }),
    );
  });
});
