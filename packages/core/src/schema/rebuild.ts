import type { Mark, Rebuild } from './marks.js';
import type { SchemaNode } from './schema.js';

/** Marks a node, and all within it, with what it rebuilds. */
export function rebuilds<N extends SchemaNode>(
  what: Rebuild | readonly Rebuild[],
  node: N,
  as?: (value: never) => unknown,
): N {
  const marks = (typeof what === 'string' ? [what] : what).map((each): Mark => ({ what: each, as }));
  return { ...node, rebuilds: [...(node.rebuilds ?? []), ...marks] };
}

/** Marks an object that is not built at all while its `on` is false. */
export const switched = <N extends SchemaNode & { kind: 'object' }>(node: N): N => ({
  ...node,
  switched: true,
});

const bearing = new Map<Rebuild, WeakMap<SchemaNode, boolean>>();

/** Whether a node or anything within it rebuilds something. */
function bears(node: SchemaNode, what: Rebuild): boolean {
  let known = bearing.get(what);
  if (!known) bearing.set(what, (known = new WeakMap()));
  let found = known.get(node);
  if (found === undefined)
    known.set(
      node,
      (found =
        node.rebuilds?.some((mark) => mark.what === what) === true ||
        within(node).some((inner) => bears(inner, what))),
    );
  return found;
}

function within(node: SchemaNode): SchemaNode[] {
  switch (node.kind) {
    case 'object':
      return Object.values(node.fields);
    case 'list':
    case 'nullable':
      return [node.of];
    case 'variant':
      return Object.values(node.cases);
    default:
      return [];
  }
}

/** Of a value, all that rebuilds something: the key that tells whether it has to be made anew. */
export function keyOf(node: SchemaNode, value: unknown, what: Rebuild): unknown {
  const mark = node.rebuilds?.find((each) => each.what === what);
  if (mark) return mark.as ? mark.as(value as never) : value;
  if (!bears(node, what) || value === null) return null;
  switch (node.kind) {
    case 'object': {
      const of = value as Record<string, unknown>;
      if (node.switched && what === 'instrument' && of.on === false) return false;
      return Object.entries(node.fields).flatMap(([key, field]) =>
        bears(field, what) ? [keyOf(field, of[key], what)] : [],
      );
    }
    case 'list':
      return (value as unknown[]).map((entry) => keyOf(node.of, entry, what));
    case 'nullable':
      return keyOf(node.of, value, what);
    case 'variant': {
      const { kind } = value as { kind: string };
      return [kind, keyOf(node.cases[kind], value, what)];
    }
    default:
      return null;
  }
}
