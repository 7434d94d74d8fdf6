/**
 * A text as a document takes it: without control characters and halves of characters, and of at most so many
 * UTF-16 units; a character that has no room is left out whole.
 */
export const plainText = (text: string, most = Infinity): string =>
  text
    .replace(/\p{Cc}/gu, ' ')
    .slice(0, most)
    .replace(/\p{Cs}/gu, '');
