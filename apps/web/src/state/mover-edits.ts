import {
  cleanMover,
  dropDangling,
  MOST_LINKS,
  plainText,
  type Mover,
  type MoverKind,
  type SoundDocument,
} from '@abyssal/core';
import { freeId } from './free-id';
import { plain } from './plain';

/** A name that no other mover has: with a number where it needs one. */
function freeName(movers: readonly Mover[], name: string): string {
  const base = name.replace(/ \d+$/, '');
  if (!movers.some((mover) => mover.name === name)) return plainText(name, 40);
  for (let n = 2; ; n++)
    if (!movers.some((mover) => mover.name === `${base} ${n}`)) return plainText(`${base} ${n}`, 40);
}

/** Puts a mover at the end of the list, under an id and a name of its own; gives its id. */
function put(draft: SoundDocument, mover: Mover): string {
  const id = freeId(draft.movers, (n) => `${mover.kind}-${n}`);
  draft.movers.push({ ...plain(mover), id, name: freeName(draft.movers, mover.name) });
  return id;
}

/** Adds a mover of a kind from clean; gives its id. */
export const addMover = (draft: SoundDocument, kind: MoverKind): string => put(draft, cleanMover(kind));

/** Adds a mover that was kept; gives its id. */
export const addKept = (draft: SoundDocument, mover: Mover): string => {
  const id = put(draft, mover);
  // What started it may be a part of another sound.
  dropDangling(draft);
  return id;
};

/** Copies a mover with all that it moves; gives the copy's id. */
export function copyMover(draft: SoundDocument, id: string): string {
  const copy = put(
    draft,
    draft.movers.find((mover) => mover.id === id)!,
  );
  for (const link of draft.links.filter(({ mover }) => mover === id)) {
    if (draft.links.length >= MOST_LINKS) break;
    draft.links.push({ ...link, id: freeId(draft.links, (n) => `link-${n}`), mover: copy });
  }
  return copy;
}

/** Takes a mover out, with its links and what points at it. */
export function removeMover(draft: SoundDocument, id: string): void {
  draft.movers = draft.movers.filter((mover) => mover.id !== id);
  dropDangling(draft);
}

/** Moves a mover by so many places. */
export function moveMover(draft: SoundDocument, id: string, by: number): void {
  const from = draft.movers.findIndex((mover) => mover.id === id);
  const to = Math.min(draft.movers.length - 1, Math.max(0, from + by));
  const [mover] = draft.movers.splice(from, 1);
  draft.movers.splice(to, 0, mover);
}
