import { plainText } from '@abyssal/core';
import { tell } from './view-store';

/**
 * A text as a document takes it, as far as there is room for it; what was left out is told. `what` names it at the start of a
 * sentence.
 */
export function cutText(what: string, typed: string, most: number): string {
  if (typed.length <= most) return plainText(typed);
  tell(`${what} can be up to ${most} characters long; the rest was left out.`);
  return plainText(typed, most);
}
