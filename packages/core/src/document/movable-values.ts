import { layerShape, type Layer } from './layer-shape.js';
import type { Parameter } from '../schema/parameter.js';
import type { SchemaNode } from '../schema/schema.js';

/**
 * A number of a layer that movers may reach: where it stands in the layer, its row, and its present value.
 */
export interface MovableValue {
  readonly field: string;
  readonly row: Parameter;
  readonly value: number;
}

function collect(node: SchemaNode, value: unknown, field: string, id: string, out: MovableValue[]): void {
  const join = (path: string, key: string | number) => (path === '' ? String(key) : `${path}.${key}`);
  switch (node.kind) {
    case 'number':
      if (node.movable) out.push({ field, row: { ...node, id: `layers.*.${id}` }, value: value as number });
      return;
    case 'object':
      for (const [key, child] of Object.entries(node.fields))
        collect(child, (value as Record<string, unknown>)[key], join(field, key), join(id, key), out);
      return;
    case 'list':
      (value as unknown[]).forEach((entry, i) => {
        collect(node.of, entry, join(field, i), join(id, '*'), out);
      });
      return;
    case 'variant': {
      const { kind } = value as { kind: string };
      collect(node.cases[kind], value, join(field, kind), join(id, kind), out);
      return;
    }
    default:
  }
}

/**
 * Every number of a layer that movers may reach, as the layer stands: of each tone the numbers of its present
 * kind. Tones and
 * filters that are off are left out where `soundingOnly` is set.
 */
export function movableValues(layer: Layer, soundingOnly = false): MovableValue[] {
  const out: MovableValue[] = [];
  collect(layerShape, layer, '', '', out);
  if (!soundingOnly) return out;
  const silent = [
    ...layer.tones.flatMap((tone, i) => (tone.on ? [] : [`tones.${i}.`])),
    ...layer.filters.flatMap((filter, i) => (filter.on ? [] : [`filters.${i}.`])),
  ];
  return out.filter(({ field }) => !silent.some((start) => field.startsWith(start)));
}
