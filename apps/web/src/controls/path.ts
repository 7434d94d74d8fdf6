import type { SoundDocument } from '@abyssal/core';

/** A place in the document: keys and indices from its top. */
export type Path = readonly (string | number)[];

type Tree = Record<string | number, unknown>;

export function valueAt(document: SoundDocument, path: Path): unknown {
  return path.reduce<unknown>((node, key) => (node as Tree)[key], document);
}

/** Sets a value in a draft of the document. */
export function setAt(draft: object, path: Path, value: unknown): void {
  const parent = path.slice(0, -1).reduce<unknown>((node, key) => (node as Tree)[key], draft) as Tree;
  parent[path[path.length - 1]] = value;
}

/** Id of the parameter row of a place: list places become `*`, and a mover's fields stand under its kind. */
export function rowId(document: SoundDocument, path: Path): string {
  return path.map((key, i) => {
    if (typeof key !== 'number') return key;
    return path[i - 1] === 'movers' ? `*.${document.movers[key].kind}` : '*';
  }).join('.');
}

/** What a link to a place is written as: layers go by their id. */
export function linkTarget(document: SoundDocument, path: Path): string {
  return path[0] === 'layers' ? ['layers', document.layers[path[1] as number].id, ...path.slice(2)].join('.') : path.join('.');
}
