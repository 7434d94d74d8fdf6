import { anyDefault } from './default.js';
import { caseOf, type SchemaNode } from './schema.js';
import { isTree } from './tree.js';

/** Marks a field with the version of the document that brought it. */
export const since = <N extends SchemaNode>(version: number, node: N): N => ({ ...node, since: version });

/**
 * A value of an older version with the fields that came after it at their defaults. A field that was there in
 * its version already is not filled in where it is missing, and what is of another
 * type than it should be stays as it is: validation names both.
 */
export function filled(node: SchemaNode, value: unknown, version: number): unknown {
  switch (node.kind) {
    case 'object': {
      if (!isTree(value)) return value;
      const entries = Object.entries(node.fields).flatMap(([key, field]): [string, unknown][] => {
        if (Object.hasOwn(value, key)) return [[key, filled(field, value[key], version)]];
        return (field.since ?? 1) > version ? [[key, anyDefault(field)]] : [];
      });
      return { ...value, ...Object.fromEntries(entries) };
    }
    case 'list':
      return Array.isArray(value) ? value.map((entry) => filled(node.of, entry, version)) : value;
    case 'nullable':
      return value === null ? null : filled(node.of, value, version);
    case 'variant': {
      const shape = isTree(value) ? caseOf(node, value.kind) : null;
      return shape ? filled(shape, value, version) : value;
    }
    default:
      return value;
  }
}
