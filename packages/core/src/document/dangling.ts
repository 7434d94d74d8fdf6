import { moverKindOf } from '../kinds/movers/index.js';
import { anyDefault } from '../schema/default.js';
import { sourceIndex } from './net.js';
import { resolveTarget } from './parameters.js';
import type { SchemaNode } from '../schema/schema.js';
import type { SoundDocument } from './shape.js';
import { unitKindOf } from '../kinds/units/index.js';
import { switchedBy } from './switches.js';
import { chainsOf } from './units.js';

/**
 * Takes out of a draft of a document what points at something that is no longer there: links from and to it,
 * lanes, what macros switch; a mover or unit that a backing part or a band was heard by goes back to what its kind begins with.
 */
export function dropDangling(draft: SoundDocument): void {
  // A link that goes may leave another that moved its reach pointing at nothing.
  for (let before = -1; before !== draft.links.length;) {
    before = draft.links.length;
    draft.links = draft.links.filter(
      (link) => sourceIndex(draft, link.mover) >= 0 && resolveTarget(draft, link.target) !== null,
    );
  }
  draft.lanes = draft.lanes.filter(({ target }) => resolveTarget(draft, target) !== null);
  for (const macro of draft.macros)
    macro.switches = macro.switches.filter(({ target }) => switchedBy(draft, target) !== null);
  const parts = draft.backing.map(({ id }) => id);
  const bands = draft.grit.bands.map(({ id }) => id);
  for (const { place, units } of chainsOf(draft))
    // Bands are heard by one another alone.
    for (const unit of units)
      hearAgain(unit, unitKindOf(unit.kind), place.in === 'band' ? [...parts, ...bands] : parts);
  for (const mover of draft.movers) hearAgain(mover, moverKindOf(mover.kind), parts);
}

/** What a kind of mover or unit says of whom it hears. */
interface Hears<T> {
  readonly shape: { readonly fields: Readonly<Record<string, SchemaNode>> };
  readonly hearsIn?: string;
  hears?(each: T): string | null;
}

/** Puts back whom a mover or a unit hears to what its kind begins with, where that is the kick or one of these no longer. */
function hearAgain<T extends object>(each: T, kind: Hears<T>, others: readonly string[]): void {
  const { hearsIn, shape } = kind;
  const name = kind.hears?.(each) ?? 'kick';
  if (hearsIn === undefined || name === 'kick' || others.includes(name)) return;
  (each as Record<string, unknown>)[hearsIn] = anyDefault(shape.fields[hearsIn]);
}
