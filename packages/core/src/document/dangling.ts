import { moverKindOf } from '../kinds/movers/index.js';
import { anyDefault } from '../schema/default.js';
import { sourceIndex } from './net.js';
import { resolveTarget } from './parameters.js';
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
    for (const unit of units) {
      const kind = unitKindOf(unit.kind);
      const { hearsIn, shape } = kind;
      const name = kind.hears?.(unit) ?? 'kick';
      if (hearsIn === undefined || name === 'kick' || parts.includes(name)) continue;
      // Bands are heard by one another alone.
      if (place.in === 'band' && bands.includes(name)) continue;
      (unit as unknown as Record<string, unknown>)[hearsIn] = anyDefault(shape.fields[hearsIn]);
    }
  for (const mover of draft.movers) {
    const kind = moverKindOf(mover.kind);
    const { hearsIn, shape } = kind;
    const name = kind.hears?.(mover) ?? 'kick';
    if (hearsIn === undefined || name === 'kick' || draft.backing.some(({ id }) => id === name)) continue;
    const field = shape.fields[hearsIn];
    (mover as unknown as Record<string, unknown>)[hearsIn] = anyDefault(field);
  }
}
