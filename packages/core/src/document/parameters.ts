import type { Parameter } from '../schema/parameter.js';
import type { NumberNode, SchemaNode } from '../schema/schema.js';
import { MACRO_IDS } from '../kinds/movers/index.js';
import { unitShape } from '../kinds/units/index.js';
import { FILTERS, OSCILLATORS, TONES } from '../schema/bounds.js';
import { soundShape, type SoundDocument } from './shape.js';
import { unitById } from './units.js';
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
      // Units stand in many chains: their numbers are listed once, under `units`.
      if (node.of !== unitShape) collect(node.of, `${path}.*`, rows);
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
  collect(unitShape, 'units.*', rows);
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

/** Where a number stands that movers may reach. */
export type TargetPart = 'layer' | 'band' | 'unit' | 'mix' | 'mover' | 'macro' | 'link';

/**
 * What a link points at: a row that movers may reach, what it belongs to, and the id of that: of the layer,
 * mover, macro, link, band or unit; null for the mix.
 */
export interface LinkTarget {
  readonly row: Parameter;
  readonly part: TargetPart;
  readonly id: string | null;
  /** Where it stands in what it belongs to. */
  readonly field: string;
}

/** What of a document targets are read against. */
export type Targeted = Pick<SoundDocument, 'layers' | 'movers' | 'links' | 'grit'>;

const PARTS: Readonly<Record<string, TargetPart>> = {
  layers: 'layer',
  movers: 'mover',
  macros: 'macro',
  links: 'link',
  bands: 'band',
  units: 'unit',
};

/**
 * Reads a link's target: `layers.<layer id>.<field>`, `movers.<mover id>.<field>`, `macros.<macro id>.valuePct`,
 * `links.<link id>.reachPct`, `bands.<band id>.<field>`, `units.<unit id>.<field>` wherever the unit stands, or a path
 * such as `grit.cleanPath.levelDb`; a number in it is a place in a list. The settings
 * of a kind of tone stand under the kind's name (`layers.body.tones.0.source.fm.scale`), and may be linked
 * while the tone is of
 * another kind: such a link waits. Null when there is no such place or movers may not reach it.
 */
export function resolveTarget(document: Targeted, target: string): LinkTarget | null {
  const match = /^(layers|movers|macros|links|bands|units)\.([a-z0-9-]+)\.(.+)$/.exec(target);
  const part = match ? PARTS[match[1]] : 'mix';
  const id = match ? match[2] : null;
  const field = match ? match[3] : target;
  let of = match ? `${part === 'band' ? 'grit.' : ''}${match[1]}.*.` : '';
  if (part === 'layer' && !document.layers.some((layer) => layer.id === id)) return null;
  if (part === 'link' && !document.links.some((link) => link.id === id)) return null;
  if (part === 'macro' && !MACRO_IDS.includes(id!)) return null;
  if (part === 'mover') {
    const mover = document.movers.find((each) => each.id === id);
    if (!mover) return null;
    of += `${mover.kind}.`;
  }
  if (part === 'band' && !document.grit.bands.some((band) => band.id === id)) return null;
  if (part === 'unit') {
    const found = unitById(document, id!);
    if (!found) return null;
    of += `${found.unit.kind}.`;
  }
  const row = byId.get(of + field.replace(/(?<=\.)\d+(?=\.|$)/g, '*'));
  if (!row?.movable) return null;
  const places = field
    .split('.')
    .flatMap((name, i, parts) => (/^\d+$/.test(name) ? [[parts[i - 1], Number(name)] as const] : []));
  if (places.some(([list, place]) => place >= (MOST_PLACES.get(list) ?? 0))) return null;
  return { row, part, id, field };
}

/** How many entries the lists of units have. */
function placesInUnits(): [string, number][] {
  return Object.values(unitShape.cases).flatMap(({ fields }) =>
    Object.entries<SchemaNode>(fields).flatMap(([name, node]): [string, number][] =>
      node.kind === 'list' ? [[name, node.max]] : [],
    ),
  );
}

/** How many places the lists have that movers may reach into. */
const MOST_PLACES: ReadonlyMap<string, number> = new Map([
  ['tones', TONES],
  ['filters', FILTERS],
  ['oscillators', OSCILLATORS],
  ['matrix', OSCILLATORS ** 2],
  ...placesInUnits(),
]);
