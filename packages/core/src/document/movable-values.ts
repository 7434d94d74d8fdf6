import { moverKindOf, type Mover } from '../kinds/movers/index.js';
import { unitKindOf, type GritUnit } from '../kinds/units/index.js';
import { layerShape, type Layer } from './layer-shape.js';
import type { Parameter } from '../schema/parameter.js';
import { object, type SchemaNode } from '../schema/schema.js';

/**
 * A number that movers may reach: where it stands in its layer or mover, its row, and its present value.
 */
export interface MovableValue {
  readonly field: string;
  readonly row: Parameter;
  readonly value: number;
}

function collect(
  node: SchemaNode,
  value: unknown,
  field: string,
  id: string,
  start: string,
  out: MovableValue[],
): void {
  const join = (path: string, key: string | number) => (path === '' ? String(key) : `${path}.${key}`);
  switch (node.kind) {
    case 'number':
      if (node.movable) out.push({ field, row: { ...node, id: `${start}${id}` }, value: value as number });
      return;
    case 'object':
      for (const [key, child] of Object.entries(node.fields))
        collect(child, (value as Record<string, unknown>)[key], join(field, key), join(id, key), start, out);
      return;
    case 'list':
      (value as unknown[]).forEach((entry, i) => {
        collect(node.of, entry, join(field, i), join(id, '*'), start, out);
      });
      return;
    case 'variant': {
      const { kind } = value as { kind: string };
      collect(node.cases[kind], value, join(field, kind), join(id, kind), start, out);
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
  // Units go by their own ids.
  const fields = Object.entries<SchemaNode>(layerShape.fields).filter(([name]) => name !== 'chain');
  collect(object(Object.fromEntries(fields)), layer, '', '', 'layers.*.', out);
  out.push(...numbersOfUnits(layer.chain));
  if (!soundingOnly) return out;
  const silent = [
    ...layer.tones.flatMap((tone, i) => (tone.on ? [] : [`tones.${i}.`])),
    ...layer.filters.flatMap((filter, i) => (filter.on ? [] : [`filters.${i}.`])),
  ];
  return out.filter(({ field }) => !silent.some((start) => field.startsWith(start)));
}

/** Numbers of a layer that have no effect as it stands, by the start of their field. */
function idleFields(layer: Layer): string[] {
  const { acts } = layer;
  const acting = (place: number) => layer.tones[place].on;
  return [
    ...layer.tones.flatMap((tone, t) => [
      ...(tone.pitchIn === 'hertz' ? [] : [`tones.${t}.fixedHz`]),
      ...(tone.driftCents > 0 ? [] : [`tones.${t}.driftHz`]),
      ...(tone.copies > 1 ? [] : [`tones.${t}.detuneCents`, `tones.${t}.spreadPct`]),
    ]),
    ...layer.filters.flatMap(({ mode }, f) => (mode === 'vowel' ? [] : [`filters.${f}.vowelPct`])),
    ...(acting(1) && acts.two.way !== 'add' ? [] : ['acts.two']),
    ...(acting(2) && acts.three.way !== 'add' ? [] : ['acts.three']),
    ...(acting(0) && acting(1) ? [] : ['acts.backPct']),
    ...(acting(2) && acts.three.way === 'alternate' ? [] : ['acts.widthPct', 'acts.smoothPct']),
    ...(layer.feedback.on ? [] : ['feedback']),
  ];
}

/** The numbers of a layer that movers may reach and that have an effect as it stands. */
export function soundingValues(layer: Layer): MovableValue[] {
  const idle = idleFields(layer);
  return movableValues(layer, true).filter(
    ({ field }) => !idle.some((start) => field === start || field.startsWith(`${start}.`)),
  );
}

/** Every number of a mover that others may reach. */
export function numbersOfMover(mover: Mover): MovableValue[] {
  const out: MovableValue[] = [];
  collect(moverKindOf(mover.kind).shape, mover, '', '', `movers.*.${mover.kind}.`, out);
  return out;
}

/** The numbers of units that movers may reach, by their targets: those of each unit in its own order. */
export const numbersOfUnits = (units: readonly GritUnit[]): MovableValue[] =>
  units.flatMap((unit) =>
    numbersOfUnit(unit).map((each) => ({ ...each, field: `units.${unit.id}.${each.field}` })),
  );

/** Every number of a unit that movers may reach. */
export function numbersOfUnit(unit: GritUnit): MovableValue[] {
  const out: MovableValue[] = [];
  collect(unitKindOf(unit.kind).shape, unit, '', '', `units.*.${unit.kind}.`, out);
  return out;
}
