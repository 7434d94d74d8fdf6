import {
  circleIn,
  cleanLink,
  cleanMover,
  dropDangling,
  MOST_LINKS,
  MOST_MOVERS,
  plainText,
  type Link,
  type Mover,
  type MoverKind,
  type SoundDocument,
} from '@abyssal/core';
import { freeId } from './free-id';

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
  draft.movers.push({ ...structuredClone(mover), id, name: freeName(draft.movers, mover.name) });
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
  const copy = put(draft, structuredClone(draft.movers.find((mover) => mover.id === id)!));
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

/** Joins a mover or macro to a target; gives the link's id. */
export function addLink(
  draft: SoundDocument,
  mover: string,
  target: string,
  more: Partial<Link> = {},
): string {
  const id = freeId(draft.links, (n) => `link-${n}`);
  draft.links.push(cleanLink({ id, mover, target, ...more }));
  return id;
}

/** Takes a link out, and what moved its reach. */
export function removeLink(draft: SoundDocument, id: string): void {
  draft.links = draft.links.filter((link) => link.id !== id);
  dropDangling(draft);
}

/** Why no more movers or links can be added; null where they can. */
export const full = ({ movers, links }: Pick<SoundDocument, 'movers' | 'links'>, what: 'movers' | 'links') =>
  what === 'movers'
    ? movers.length >= MOST_MOVERS
      ? `There are ${MOST_MOVERS} movers, as many as a sound takes. Remove one first.`
      : null
    : links.length >= MOST_LINKS
      ? `There are ${MOST_LINKS} links, as many as a sound takes. Remove one first.`
      : null;

/** Why a sound cannot have these links, in a sentence: they would go round in a circle; null where it can. */
export function circleOf(document: SoundDocument, links: readonly Link[]): string | null {
  const circle = circleIn({ ...document, links: [...links] });
  return circle && `That would go round in a circle: ${circle}.`;
}
