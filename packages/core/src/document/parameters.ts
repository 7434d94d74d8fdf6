import type { NumberNode, SchemaNode } from './schema.js';
import { soundShape, type SoundDocument } from './shape.js';

/** A row of the parameter table: a number of the document and where it stands. */
export interface Parameter extends NumberNode {
  /** Path with `*` for a place in a list, such as `layers.*.filter.cutoffHz`. */
  readonly id: string;
}

function collect(node: SchemaNode, path: string, rows: Parameter[]): void {
  switch (node.kind) {
    case 'number': rows.push({ ...node, id: path }); break;
    case 'object': for (const [key, field] of Object.entries(node.fields)) collect(field, path ? `${path}.${key}` : key, rows); break;
    case 'list': collect(node.of, `${path}.*`, rows); break;
    case 'nullable': collect(node.of, path, rows); break;
    case 'variant': for (const [name, shape] of Object.entries(node.cases)) collect(shape, `${path}.${name}`, rows); break;
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

/** The row with an id such as `duck.amountDb` or `layers.*.levelDb`. Throws a `RangeError` when there is none. */
export function parameter(id: string): Parameter {
  const row = byId.get(id);
  if (!row) throw new RangeError(`there is no parameter ${id}`);
  return row;
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

/** What a link points at: a row that movers may reach, and the layer it belongs to where it belongs to one. */
export interface LinkTarget { readonly row: Parameter; readonly layerId: string | null; readonly field: string }

/**
 * Reads a link's target: `layers.<layer id>.<field>` or a path such as `grit.clip.driveDb`.
 * Null when there is no such place or movers may not reach it.
 */
export function resolveTarget(document: Pick<SoundDocument, 'layers'>, target: string): LinkTarget | null {
  const match = /^layers\.([a-z0-9-]+)\.(.+)$/.exec(target);
  const row = byId.get(match ? `layers.*.${match[2]}` : target);
  if (!row?.movable) return null;
  if (match && !document.layers.some((layer) => layer.id === match[1])) return null;
  return { row, layerId: match ? match[1] : null, field: match ? match[2] : target };
}

/** Every target that the movers of a document may reach, with words for it, in document order. */
export function linkTargets(document: Pick<SoundDocument, 'layers'>): { target: string; label: string; row: Parameter }[] {
  const out: { target: string; label: string; row: Parameter }[] = [];
  for (const row of PARAMETERS) {
    if (!row.movable) continue;
    if (!row.id.startsWith('layers.*.')) out.push({ target: row.id, label: `Clip · ${row.label.toLowerCase()}`, row });
    else for (const layer of document.layers) {
      out.push({ target: row.id.replace('*', layer.id), label: `${layer.name} · ${row.label.toLowerCase()}`, row });
    }
  }
  return out;
}
