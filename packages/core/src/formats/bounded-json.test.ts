import fc from 'fast-check';
import { cleanSound, extentOf, soundShape } from '../document/index.js';
import { anySound } from '../testing/any-sound.js';
import { boundJson, readJson } from './bounded-json.js';
import { FormatError } from './format-error.js';

const MB = 1 << 20;
const refused = (text: string) => expect(() => readJson(text)).toThrow(FormatError);

describe('JSON that is bounded before it is parsed', () => {
  it('is any sound, written in any way, and what is no sound but no larger', () => {
    fc.assert(
      fc.property(anySound, fc.constantFrom(undefined, 1, '\t'), (sound, indent) => {
        expect(readJson(JSON.stringify(sound, null, indent))).toEqual(JSON.parse(JSON.stringify(sound)));
      }),
      { numRuns: 60 },
    );
    fc.assert(
      fc.property(fc.json({ maxDepth: 6 }), (text) => {
        expect(readJson(text)).toEqual(JSON.parse(text));
      }),
    );
  });

  it('takes a text of 4 MB in one value, with all that looks like structure', () => {
    const name = '[{,"\\'.repeat(MB / 2);
    expect(readJson(JSON.stringify({ name, after: [1] }))).toEqual({ name, after: [1] });
  });

  it.each([
    ['keys that nobody knows', () => `{${Array.from({ length: 300_000 }, (_, i) => `"k${i}":1`).join()}}`],
    ['one key over and over', () => `{${'"a":1,'.repeat(600_000)}"a":1}`],
    ['layers without end', () => `{"layers":[${'{},'.repeat(85_000)}{}]}`],
    ['lists within lists', () => '['.repeat(MB) + ']'.repeat(MB)],
    ['objects within objects', () => `${'{"a":'.repeat(3000)}1${'}'.repeat(3000)}`],
    [
      'many lists that are not long',
      () =>
        `[${Array(1000)
          .fill(`[${'1,'.repeat(999)}1]`)
          .join()}]`,
    ],
    ['what never closes', () => '[1,'.repeat(MB)],
  ])('refuses %s', (_what, text) => {
    refused(text());
  });

  it('leaves it to the parser to say what is no JSON', () => {
    for (const text of ['', '{', ']', '}}}}', '"open', '{"a":1,}', 'nonsense', '\\"[']) {
      boundJson(text);
      expect(() => readJson(text)).toThrow(SyntaxError);
    }
  });

  it('knows how large a sound may be', () => {
    const { depth, fields, entries, values } = extentOf(soundShape);
    const size = (value: unknown): number =>
      typeof value === 'object' && value !== null
        ? Object.values(value).reduce((sum: number, inner) => sum + size(inner), 1)
        : 1;
    expect(size(cleanSound())).toBeLessThan(values);
    expect([depth, entries]).toEqual([9, 4096]);
    expect(fields).toBeGreaterThan(20);
  });
});
