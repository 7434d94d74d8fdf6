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

/** Id of the parameter row of a place: list places become `*`. */
export function rowId(document: SoundDocument, path: Path): string {
  return kinded(document, path)
    .map((key) => (typeof key === 'number' ? '*' : key))
    .join('.');
}

/** What a link to a place is written as: layers go by their id, other lists by the number of the place. */
export function linkTarget(document: SoundDocument, path: Path): string {
  return path[0] === 'layers'
    ? ['layers', document.layers[path[1] as number].id, ...kinded(document, path).slice(2)].join('.')
    : path.join('.');
}
