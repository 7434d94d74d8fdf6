import type { ListNode, NumberNode, ObjectNode, SchemaNode, VariantNode } from './schema.js';

type Bears<N> = N extends NumberNode<true> | ObjectNode | VariantNode
  ? true
  : N extends ListNode<infer I>
    ? Bears<I>
    : false;

/**
 * Places of the numbers of a shape that movers may reach, by field; a list stands as its first place, how
 * many an entry takes, and the places within an entry.
 */
export type Places<N> =
  N extends NumberNode<true>
    ? number
    : N extends ListNode<infer I>
      ? { readonly first: number; readonly each: number; readonly of: Places<I> }
      : N extends ObjectNode<infer F>
        ? { readonly [K in keyof F as Bears<F[K]> extends true ? K : never]: Places<F[K]> }
        : N extends VariantNode<infer C>
          ? { readonly [K in keyof C]: Places<C[K]> }
          : never;

/**
 * Places of a node that begins at `from`, and the place after it: not a number where entries or kinds make
 * its length differ.
 */
function walk(node: SchemaNode, from: number): { places: unknown; next: number } {
  switch (node.kind) {
    case 'number':
      return node.movable ? { places: from, next: from + 1 } : { places: undefined, next: from };
    case 'object': {
      const places: Record<string, unknown> = {};
      let next = from;
      for (const [key, field] of Object.entries(node.fields)) {
        const found = walk(field, next);
        places[key] = found.places;
        next = found.next;
      }
      return { places, next };
    }
    case 'list': {
      const entry = walk(node.of, 0);
      const next = entry.next === 0 ? from : node.min === node.max ? from + node.min * entry.next : NaN;
      return { places: { first: from, each: entry.next, of: entry.places }, next };
    }
    case 'variant': {
      const cases = Object.entries(node.cases).map(([kind, shape]) => [kind, walk(shape, from)] as const);
      const { next } = cases[0][1];
      return {
        places: Object.fromEntries(cases.map(([kind, { places }]) => [kind, places])),
        next: cases.every(([, each]) => each.next === next) ? next : NaN,
      };
    }
    default:
      return { places: undefined, next: from };
  }
}

/**
 * Where the numbers of a shape that movers may reach stand in a bank, counted from the first of them: in the
 * order of the document, as `movableValues` lists them. What
 * follows a list of no fixed length, or kinds of different length, has no place of its own, and is not a
 * number.
 */
export function placesOf<N extends ObjectNode<Record<string, SchemaNode>>>(shape: N): Places<N> {
  return walk(shape, 0).places as Places<N>;
}
