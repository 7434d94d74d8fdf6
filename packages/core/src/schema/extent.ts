import type { SchemaNode } from './schema.js';

/** How large a value of a shape may be at the most. */
export interface Extent {
  /** How deep lists and objects stand within each other; 0 is a value by itself. */
  readonly depth: number;
  /** Fields of the widest object, entries of the longest list. */
  readonly fields: number;
  readonly entries: number;
  /** Values, lists and objects together. */
  readonly values: number;
}

const ONE: Extent = { depth: 0, fields: 0, entries: 0, values: 1 };

function widest(extents: readonly Extent[], values: number): Extent {
  const most = (of: keyof Extent) => Math.max(0, ...extents.map((extent) => extent[of]));
  return { depth: most('depth'), fields: most('fields'), entries: most('entries'), values };
}

/** How large a value of a node may be. */
export function extentOf(node: SchemaNode): Extent {
  switch (node.kind) {
    case 'object': {
      const inner = Object.values(node.fields).map(extentOf);
      const found = widest(
        inner,
        inner.reduce((sum, { values }) => sum + values, 1),
      );
      return { ...found, depth: found.depth + 1, fields: Math.max(found.fields, inner.length) };
    }
    case 'list': {
      const inner = extentOf(node.of);
      return {
        depth: inner.depth + 1,
        fields: inner.fields,
        entries: Math.max(inner.entries, node.max),
        values: 1 + node.max * inner.values,
      };
    }
    case 'nullable':
      return extentOf(node.of);
    case 'variant': {
      const inner = Object.values(node.cases).map(extentOf);
      return widest(inner, Math.max(...inner.map(({ values }) => values)));
    }
    default:
      return ONE;
  }
}
