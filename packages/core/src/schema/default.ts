import type { Infer, SchemaNode } from './schema.js';

/** As `defaultOf`, of a node whose type is not known. */
export function anyDefault(node: SchemaNode): unknown {
  switch (node.kind) {
    case 'number':
    case 'text':
    case 'flag':
    case 'choice':
      return node.default;
    case 'literal':
      return node.value;
    case 'list':
      return Array.from({ length: node.min }, () => anyDefault(node.of));
    case 'nullable':
      return null;
    case 'object':
      return Object.fromEntries(Object.entries(node.fields).map(([key, field]) => [key, anyDefault(field)]));
    case 'variant':
      return anyDefault(Object.values(node.cases)[0]);
  }
}

/** The default value of a node: each number at its default, lists at their shortest, nullable places null. */
export function defaultOf<N extends SchemaNode>(node: N): Infer<N> {
  return anyDefault(node) as Infer<N>;
}
