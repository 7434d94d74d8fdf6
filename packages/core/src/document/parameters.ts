import type { Parameter } from '../schema/parameter.js';
import type { NumberNode, SchemaNode } from '../schema/schema.js';
import { FILTERS, OSCILLATORS, TONES } from '../schema/bounds.js';
import { movableValues } from './movable-values.js';
import { soundShape, type SoundDocument } from './shape.js';
import { sourceShape, type ToneKind } from './tone-shape.js';

function collect(node: SchemaNode, path: string, rows: Parameter[]): void {
  switch (node.kind) {
    case 'number':
      rows.push({ ...node, id: path });
      break;
    case 'object':
      for (const [key, field] of Object.entries(node.fields))
        collect(field, path ? `${path}.${key}` : key, rows);
      break;
    case 'list':
      collect(node.of, `${path}.*`, rows);
      break;
    case 'nullable':
      collect(node.of, path, rows);
      break;
    case 'variant':
      for (const [name, shape] of Object.entries(node.cases)) collect(shape, `${path}.${name}`, rows);
      break;
    default:
  }
}

/** Every number of the document that a person can turn, in document order. */
export const PARAMETERS: readonly Parameter[] = (() => {
  const rows: Parameter[] = [];
  collect(soundShape, '', rows);
  return rows;
})();

const byId = new Map(PARAMETERS.map((row) => [row.id, row]));

/**
 * The row with an id such as `duck.amountDb` or `layers.*.levelDb`. Throws a `RangeError` when there is none.
 */
export function parameter(id: string): Parameter {
  const row = byId.get(id);
  if (!row) throw new RangeError(`there is no parameter ${id}`);
  return row;
}

/** The numbers that a kind of tone has of its own, in document order; those in lists and parts of it are not among them. */
export function numbersOf(kind: ToneKind): string[] {
  const { fields } = sourceShape.cases[kind];
  return Object.entries<SchemaNode>(fields).flatMap(([field, node]) =>
    node.kind === 'number' ? [field] : [],
  );
}

/** Place of a value on its row's scale, 0 at the least and 1 at the greatest. */
export function toPosition(row: NumberNode, value: number): number {
  return row.scale === 'log'
    ? Math.log(value / row.min) / Math.log(row.max / row.min)
    : (value - row.min) / (row.max - row.min);
}

/** Value at a place on a row's scale; places outside 0 to 1 are held to the ends. */
export function fromPosition(row: NumberNode, position: number): number {
  const p = position < 0 ? 0 : position > 1 ? 1 : position;
  return row.scale === 'log' ? row.min * Math.pow(row.max / row.min, p) : row.min + p * (row.max - row.min);
}

/** The nearest value that a row allows: within its bounds, whole where it must be. */
export function clampValue(row: NumberNode, value: number): number {
  const held = Math.min(row.max, Math.max(row.min, value));
  return row.whole ? Math.round(held) : held;
}

/**
 * What a link points at: a row that movers may reach, and the layer it belongs to where it belongs to one.
 */
export interface LinkTarget {
  readonly row: Parameter;
  readonly layerId: string | null;
  readonly field: string;
}

/**
 * Reads a link's target: `layers.<layer id>.<field>` or a path such as `grit.clip.driveDb`; a number in it is
 * a place in a list. The settings
 * of a kind of tone stand under the kind's name (`layers.body.tones.0.source.fm.scale`), and may be linked
 * while the tone is of
 * another kind: such a link waits. Null when there is no such place or movers may not reach it.
 */
export function resolveTarget(document: Pick<SoundDocument, 'layers'>, target: string): LinkTarget | null {
  const match = /^layers\.([a-z0-9-]+)\.(.+)$/.exec(target);
  const field = match ? match[2] : target;
  const row = byId.get((match ? 'layers.*.' : '') + field.replace(/(?<=\.)\d+(?=\.|$)/g, '*'));
  if (!row?.movable) return null;
  if (match && !document.layers.some((layer) => layer.id === match[1])) return null;
  const places = field
    .split('.')
    .flatMap((part, i, parts) => (/^\d+$/.test(part) ? [[parts[i - 1], Number(part)] as const] : []));
  if (places.some(([list, place]) => place >= (MOST_PLACES.get(list) ?? 0))) return null;
  return { row, layerId: match ? match[1] : null, field };
}

/** How many places the lists have that movers may reach into. */
const MOST_PLACES: ReadonlyMap<string, number> = new Map([
  ['tones', TONES],
  ['filters', FILTERS],
  ['oscillators', OSCILLATORS],
  ['matrix', OSCILLATORS ** 2],
]);

/**
 * Words for what stands on the way to a number: `layers.*.tones.0.source.fm.matrix.4` is "Tone 1 · 2 into 1 ·
 * amount".
 */
function fieldLabel(field: string, row: Parameter): string {
  const parts = field.split('.');
  const words: string[] = [];
  parts.forEach((part, i) => {
    const place = Number(parts[i + 1]);
    if (part === 'tones') words.push(`tone ${place + 1}`);
    else if (part === 'filters') words.push(`filter ${place + 1}`);
    else if (part === 'oscillators') words.push(`oscillator ${place + 1}`);
    else if (part === 'matrix')
      words.push(
        place % 5 === 0 ? `${place / 5 + 1} into itself` : `${(place >> 2) + 1} into ${(place % 4) + 1}`,
      );
  });
  return [...words, row.label.toLowerCase()].join(' · ');
}

/** Words for a target, such as "Body · filter 1 · cutoff"; null where there is no such place. */
export function targetLabel(document: Pick<SoundDocument, 'layers'>, target: string): string | null {
  const found = resolveTarget(document, target);
  if (!found) return null;
  const layer = document.layers.find(({ id }) => id === found.layerId);
  return layer
    ? `${layer.name} · ${fieldLabel(found.field, found.row)}`
    : (linkTargets(document).find((each) => each.target === target)?.label ?? null);
}

/**
 * Every target that the movers of a document may reach and that sounds, with words for it, in document order.
 */
export function linkTargets(
  document: Pick<SoundDocument, 'layers'>,
): { target: string; label: string; row: Parameter }[] {
  const out: { target: string; label: string; row: Parameter }[] = [];
  for (const row of PARAMETERS) {
    if (!row.movable || row.id.startsWith('layers.*.')) continue;
    out.push({
      target: row.id,
      label: `${row.id.startsWith('feedback') ? 'Whole sound' : 'Clip'} · ${row.label.toLowerCase()}`,
      row,
    });
  }
  for (const layer of document.layers) {
    for (const { field, row } of movableValues(layer, true))
      out.push({
        target: `layers.${layer.id}.${field}`,
        label: `${layer.name} · ${fieldLabel(field, row)}`,
        row,
      });
  }
  return out;
}
