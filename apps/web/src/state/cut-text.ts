import { tell } from './view-store';

/**
 * A text as far as there is room for it; what was left out is told. `what` names it at the start of a
 * sentence.
 */
export function cutText(what: string, typed: string, most: number): string {
  if (typed.length <= most) return typed;
  tell(`${what} can be up to ${most} characters long; the rest was left out.`);
  return typed.slice(0, most);
}
