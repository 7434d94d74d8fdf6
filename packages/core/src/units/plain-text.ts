/** What is no text: half of a pair of UTF-16, and characters that print nothing. */
const HALF_A_CHARACTER = /\p{Cs}/u;
const CONTROL = /\p{Cc}/u;

/** What keeps a text from being one, in words that follow its name; null where nothing does. */
export function textFault(text: string): string | null {
  if (HALF_A_CHARACTER.test(text)) return 'has half a character in it (a lone surrogate)';
  return CONTROL.test(text) ? 'has a control character in it' : null;
}

/**
 * A text as a document takes it: without control characters and halves of characters, and of at most so many
 * UTF-16 units; a character that has no room is left out whole.
 */
export const plainText = (text: string, most = Infinity): string =>
  text
    .replace(/\p{Cc}/gu, ' ')
    .slice(0, most)
    .replace(/\p{Cs}/gu, '');
