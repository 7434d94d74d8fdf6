import {
  chainKeys,
  MACRO_IDS,
  unitById,
  type GritUnit,
  type SoundDocument,
  type UnitPlace,
} from '@abyssal/core';

/** A place in the document: keys and indices from its top. */
export type Path = readonly (string | number)[];

type Tree = Record<string | number, unknown>;

export function valueAt(document: SoundDocument, path: Path): unknown {
  return path.reduce<unknown>((node, key) => (node as Tree)[key], document);
}

/** A path of its keys, or of a text in which dots part them; whole numbers are places in lists. */
export const keysOf = (path: string | readonly string[]): Path =>
  (typeof path === 'string' ? path.split('.') : path).map((key) => (/^\d+$/.test(key) ? Number(key) : key));

/** Sets a value in a draft of the document. */
export function setAt(draft: object, path: Path, value: unknown): void {
  const parent = path.slice(0, -1).reduce<unknown>((node, key) => (node as Tree)[key], draft) as Tree;
  parent[path[path.length - 1]] = value;
}

/**
 * A path with the kinds of those objects on it that are of one kind or another: a mover's fields stand under
 * its kind, and so do a tone's own.
 */
function kinded(document: SoundDocument, path: Path): (string | number)[] {
  return path.flatMap((key, i) => {
    const kind =
      path[i - 1] === 'movers' || key === 'source'
        ? (valueAt(document, path.slice(0, i + 1)) as Partial<{ kind: string }> | undefined)?.kind
        : undefined;
    return kind === undefined || path[0] === 'kick' ? [key] : [key, kind];
  });
}

/** What holds units, as the last key before a unit's place. */
const CHAINS: readonly (string | number)[] = ['chain', 'units', 'after'];

/** Where in a path a unit's place stands; below 0 where it leads through none. */
const unitIn = (path: Path) =>
  path.findIndex((key, i) => typeof key === 'number' && i > 0 && CHAINS.includes(path[i - 1]));

/** The units of a chain; in a draft they may be changed. */
export const chainAt = (document: SoundDocument, place: UnitPlace): GritUnit[] =>
  valueAt(document, chainKeys(document, place)) as GritUnit[];

/** Id of the parameter row of a place: list places become `*`. Units have theirs wherever they stand. */
export function rowId(document: SoundDocument, path: Path): string {
  const unit = unitIn(path);
  if (unit >= 0) {
    const { kind } = valueAt(document, path.slice(0, unit + 1)) as GritUnit;
    return [
      'units',
      '*',
      kind,
      ...path.slice(unit + 1).map((key) => (typeof key === 'number' ? '*' : key)),
    ].join('.');
  }
  return kinded(document, path)
    .map((key) => (typeof key === 'number' ? '*' : key))
    .join('.');
}

/** What a link to a place is written as: layers, bands, units, movers, macros and links go by their ids. */
export function linkTarget(document: SoundDocument, path: Path): string {
  const unit = unitIn(path);
  if (unit >= 0) {
    const { id } = valueAt(document, path.slice(0, unit + 1)) as GritUnit;
    return ['units', id, ...path.slice(unit + 1)].join('.');
  }
  if (path[0] === 'grit' && path[1] === 'bands' && typeof path[2] === 'number')
    return ['bands', document.grit.bands[path[2]].id, ...path.slice(3)].join('.');
  const [list, place, ...rest] = path;
  switch (list) {
    case 'layers':
      return ['layers', document.layers[place as number].id, ...kinded(document, path).slice(2)].join('.');
    case 'movers':
    case 'links':
      return [list, document[list][place as number].id, ...rest].join('.');
    case 'macros':
      return ['macros', MACRO_IDS[place as number], ...rest].join('.');
    default:
      return path.join('.');
  }
}

/** The place in a document that a target means; null where there is none at present. */
export function pathOf(document: SoundDocument, target: string): Path | null {
  const [list, id, ...rest] = target.split('.');
  const within = (start: Path, keys: readonly string[]): Path | null => {
    // A tone's own numbers stand under its kind in a target, and without it in the document.
    const source = keys.indexOf('source');
    if (source >= 0) {
      const at = [...start, ...keysOf(keys.slice(0, source + 1))];
      if ((valueAt(document, at) as { kind: string }).kind !== keys[source + 1]) return null;
      return [...at, ...keysOf(keys.slice(source + 2))];
    }
    return [...start, ...keysOf(keys)];
  };
  if (list === 'macros') return ['macros', MACRO_IDS.indexOf(id), ...rest];
  if (list === 'units') {
    const found = unitById(document, id);
    if (!found) return null;
    const at = chainAt(document, found.place).indexOf(found.unit);
    return within([...chainKeys(document, found.place), at], rest);
  }
  if (list === 'bands') {
    const band = document.grit.bands.findIndex((each) => each.id === id);
    return band < 0 ? null : within(['grit', 'bands', band], rest);
  }
  if (list !== 'layers' && list !== 'movers' && list !== 'links') return keysOf(target);
  const at = document[list].findIndex((each) => each.id === id);
  return at < 0 ? null : within([list, at], rest);
}
