import { extentOf, soundShape } from '../document/index.js';
import { FormatError } from './format-error.js';

const LARGEST = extentOf(soundShape);
/** A sound, the bundle that it may stand in, and what older versions of it had besides. */
const MOST_DEPTH = LARGEST.depth + 4;
const MOST_VALUES = 2 * LARGEST.values;
/** Fields of one object, entries of one list: the recordings of a bundle are the most. */
const MOST_IN_ONE = 1024;

const QUOTE = 0x22;
const COMMA = 0x2c;
const OPEN_LIST = 0x5b;
const BACKSLASH = 0x5c;
const CLOSE_LIST = 0x5d;
const OPEN_OBJECT = 0x7b;
const CLOSE_OBJECT = 0x7d;

/**
 * Holds a text of JSON against the bounds of the largest sound before it is parsed: how deep it is nested, how
 * many entries stand in one object or list, and how many values in all. Linear in the text, and about as fast
 * as reading it; parsing without it takes seconds for some texts of a few MB. Throws a `FormatError`.
 */
export function boundJson(text: string): void {
  const entries = new Int32Array(MOST_DEPTH + 1);
  let depth = 0;
  let values = 0;
  for (let i = 0; i < text.length; i++) {
    switch (text.charCodeAt(i)) {
      case QUOTE:
        for (i++; i < text.length && text.charCodeAt(i) !== QUOTE; i++)
          if (text.charCodeAt(i) === BACKSLASH) i++;
        break;
      case OPEN_LIST:
      case OPEN_OBJECT:
        if (++depth > MOST_DEPTH)
          throw new FormatError(`it is nested more than ${MOST_DEPTH} deep: no sound is`);
        entries[depth] = 1;
        values += 2;
        break;
      case CLOSE_LIST:
      case CLOSE_OBJECT:
        if (depth > 0) depth -= 1;
        break;
      case COMMA:
        values += 1;
        if (++entries[depth] > MOST_IN_ONE)
          throw new FormatError(
            `more than ${MOST_IN_ONE} entries stand in one place of it: no sound has so many`,
          );
        if (values > MOST_VALUES)
          throw new FormatError(`it holds more than ${MOST_VALUES} values: no sound has so many`);
    }
  }
}

/** Parses JSON that is no larger than a sound may be. Throws a `FormatError`, or a `SyntaxError` where it is no JSON. */
export function readJson(text: string): unknown {
  boundJson(text);
  return JSON.parse(text) as unknown;
}
