import {
  chainsOf,
  clampValue,
  cleanUnit,
  dropDangling,
  MOST_LAYER_UNITS,
  MOST_LINKS,
  MOST_UNITS,
  unitById,
  unitKindOf,
  type GritUnit,
  type SchemaNode,
  type SoundDocument,
  type UnitKind,
  type UnitPlace,
} from '@abyssal/core';
import { freeId } from './free-id';
import { chainAt } from './path';
import { plain } from './plain';

/** How many units a chain takes. */
export const mostUnits = (place: UnitPlace) => (place.in === 'layer' ? MOST_LAYER_UNITS : MOST_UNITS);

/** Why a chain takes no more units; null where it does. */
export const noRoom = (document: SoundDocument, place: UnitPlace, count = 1): string | null =>
  chainAt(document, place).length + count > mostUnits(place)
    ? `A chain ${place.in === 'layer' ? 'of a layer ' : ''}takes ${mostUnits(place)} units. Remove one first.`
    : null;

export const samePlace = (a: UnitPlace, b: UnitPlace) =>
  a.in === b.in && ('id' in a ? a.id : '') === ('id' in b ? b.id : '');

/** An id that no unit of the document has, and none of `taken`. */
const freeIdBeside = (document: SoundDocument, kind: UnitKind, taken: ReadonlySet<string>): string =>
  freeId(
    [...chainsOf(document).flatMap(({ units }) => units), ...[...taken].map((id) => ({ id }))],
    (n) => `${kind.replaceAll(' ', '-')}-${n}`,
  );

/** An id that no unit of the document has. */
export const freeUnitId = (document: SoundDocument, kind: UnitKind): string =>
  freeIdBeside(document, kind, new Set());

/** Adds a unit of a kind from clean; at the end where no place in the chain is given. Gives its id. */
export function addUnit(draft: SoundDocument, place: UnitPlace, kind: UnitKind, at?: number): string {
  const id = freeUnitId(draft, kind);
  const units = chainAt(draft, place);
  units.splice(at ?? units.length, 0, cleanUnit(kind, { id }) as GritUnit);
  return id;
}

/** Adds units at the end of a chain, those whose ids are taken under ids of their own; gives each one's id by its former. */
export function addUnits(
  draft: SoundDocument,
  place: UnitPlace,
  units: readonly GritUnit[],
): ReadonlyMap<string, string> {
  const ids = new Map<string, string>();
  for (const unit of units) {
    const id = unitById(draft, unit.id) ? freeUnitId(draft, unit.kind) : unit.id;
    ids.set(unit.id, id);
    chainAt(draft, place).push({ ...plain(unit), id });
  }
  return ids;
}

/** Takes a unit out, with what points at it. */
export function removeUnit(draft: SoundDocument, id: string): void {
  const found = unitById(draft, id);
  if (!found) return;
  const units = chainAt(draft, found.place);
  units.splice(
    units.findIndex((unit) => unit.id === id),
    1,
  );
  dropDangling(draft);
}

/**
 * Moves a unit to a place in the same chain or in another, where there is room; what is linked to it follows. What
 * it hears that is not heard there is put back.
 */
export function moveUnit(draft: SoundDocument, id: string, to: UnitPlace, at: number): void {
  const found = unitById(draft, id);
  if (!found || (!samePlace(found.place, to) && noRoom(draft, to))) return;
  const from = chainAt(draft, found.place);
  const [unit] = from.splice(
    from.findIndex((each) => each.id === id),
    1,
  );
  const units = chainAt(draft, to);
  units.splice(Math.max(0, Math.min(units.length, at)), 0, unit);
  dropDangling(draft);
}

/** Puts a copy behind a unit, with the links to it; gives the copy's id. */
export function copyUnit(draft: SoundDocument, id: string): string {
  const { unit, place } = unitById(draft, id)!;
  const copy = freeUnitId(draft, unit.kind);
  const units = chainAt(draft, place);
  units.splice(units.indexOf(unit) + 1, 0, { ...plain(unit), id: copy });
  copyLinks(draft, new Map([[id, copy]]));
  return copy;
}

/** Copies the links to units onto their copies, by the ids of both. */
export function copyLinks(draft: SoundDocument, copies: ReadonlyMap<string, string>): void {
  for (const link of [...draft.links]) {
    const [part, id, ...field] = link.target.split('.');
    const copy = part === 'units' ? copies.get(id) : undefined;
    if (copy === undefined) continue;
    if (draft.links.length >= MOST_LINKS) return;
    draft.links.push({
      ...link,
      id: freeId(draft.links, (n) => `link-${n}`),
      target: ['units', copy, ...field].join('.'),
    });
  }
}

/** Puts another kind in a unit's place: what both have of the same name stays, links to it too. */
export function replaceUnit(draft: SoundDocument, id: string, kind: UnitKind): void {
  const found = unitById(draft, id);
  if (!found || found.unit.kind === kind) return;
  const units = chainAt(draft, found.place);
  units[units.findIndex((unit) => unit.id === id)] = replaced(found.unit, kind);
  dropDangling(draft);
}

/** A unit as another kind, with what both have: a number held to the other's bounds, a choice that it has as well. */
export function replaced(unit: GritUnit, kind: UnitKind): GritUnit {
  const before = unit as unknown as Readonly<Record<string, unknown>>;
  const { shape } = unitKindOf(kind);
  const kept = Object.entries<SchemaNode>(shape.fields).flatMap(([name, node]): [string, unknown][] => {
    const value = before[name];
    if (name === 'kind') return [];
    if (node.kind === 'number' && typeof value === 'number') return [[name, clampValue(node, value)]];
    if (node.kind === 'flag' && typeof value === 'boolean') return [[name, value]];
    if (node.kind === 'text' && typeof value === 'string') return [[name, value]];
    if (node.kind === 'choice' && typeof value === 'string' && node.options.includes(value))
      return [[name, value]];
    return [];
  });
  return cleanUnit(kind, Object.fromEntries(kept));
}

/** Puts a chain in the place of another: locked units that were there go on, all others get ids of their own. */
export function setChain(draft: SoundDocument, place: UnitPlace, units: readonly GritUnit[]): void {
  const chain = chainAt(draft, place);
  const stay = new Set(chain.flatMap(({ id, locked }) => (locked ? [id] : [])));
  const before = chain.splice(0);
  for (const unit of units) {
    const own = stay.has(unit.id) ? before.find(({ id }) => id === unit.id) : undefined;
    // What stays keeps its name from those that are named before it.
    chain.push(own ?? { ...plain(unit), id: freeIdBeside(draft, unit.kind, stay) });
  }
  dropDangling(draft);
}
