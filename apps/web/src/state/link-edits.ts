import {
  circleIn,
  cleanLink,
  dropDangling,
  MOST_LANES,
  MOST_LINKS,
  MOST_MOVERS,
  resolveTarget,
  toPosition,
  type Link,
  type SoundDocument,
} from '@abyssal/core';
import { flatLane } from './flat-lane';
import { freeId } from './free-id';
import { pathOf, valueAt } from './path';

/** From here on a number stands so high as a rule that a link first carries it down. */
const HIGH = 0.75;

const MOST = { movers: MOST_MOVERS, links: MOST_LINKS, lanes: MOST_LANES } as const;

/** Why no more of these can be added; null where they can. */
export const full = (
  document: Pick<SoundDocument, keyof typeof MOST>,
  what: keyof typeof MOST,
): string | null =>
  document[what].length >= MOST[what]
    ? `There are ${MOST[what]} ${what}, as many as a sound takes. Remove one first.`
    : null;

/** Why a sound cannot have these links, in a sentence: they would go round in a circle; null where it can. */
export function circleOf(document: SoundDocument, links: readonly Link[]): string | null {
  const circle = circleIn({ ...document, links: [...links] });
  return circle && `That would go round in a circle: ${circle}.`;
}

/** Why a mover or macro cannot be joined to a target; null where it can. */
export const noLink = (document: SoundDocument, mover: string, target: string): string | null =>
  full(document, 'links') ??
  circleOf(document, [...document.links, cleanLink({ id: 'trial', mover, target })]);

/** Joins a mover or macro to a target. What lies round a value is heard of a key both ways. */
export function addLink(draft: SoundDocument, mover: string, target: string, more: Partial<Link> = {}): void {
  const row = resolveTarget(draft, target)?.row;
  const key = draft.movers.some(({ id, kind }) => id === mover && kind === 'key');
  draft.links.push(
    cleanLink({
      id: freeId(draft.links, (n) => `link-${n}`),
      mover,
      target,
      reachPct: row && toPosition(row, row.default) > HIGH ? -25 : 25,
      way: key ? 'both ways' : 'one way',
      ...more,
    }),
  );
}

/** Takes a link out, and what moved its reach. */
export function removeLink(draft: SoundDocument, id: string): void {
  draft.links = draft.links.filter((link) => link.id !== id);
  dropDangling(draft);
}

/** Gives a target a lane that stands where it stands; one that is not there at present has none. */
export function addLane(draft: SoundDocument, target: string): void {
  const row = resolveTarget(draft, target)?.row;
  const path = pathOf(draft, target);
  if (!row || !path) return;
  const at = toPosition(row, valueAt(draft, path) as number);
  draft.lanes.push({ target, on: true, points: flatLane(at, draft.ground.bars) });
}
