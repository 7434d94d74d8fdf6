import { moverKindOf } from '../kinds/movers/index.js';
import { anyDefault } from '../schema/default.js';
import { sourceIndex } from './net.js';
import { resolveTarget } from './parameters.js';
import type { SoundDocument } from './shape.js';
import { switchedBy } from './switches.js';

/**
 * Takes out of a draft of a document what points at something that is no longer there: links from and to it,
 * lanes, what macros switch; a mover that a backing part started goes back to what its kind begins with.
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
  for (const mover of draft.movers) {
    const kind = moverKindOf(mover.kind);
    const { hearsIn, shape } = kind;
    const name = kind.hears?.(mover) ?? 'kick';
    if (hearsIn === undefined || name === 'kick' || draft.backing.some(({ id }) => id === name)) continue;
    const field = shape.fields[hearsIn];
    (mover as unknown as Record<string, unknown>)[hearsIn] = anyDefault(field);
  }
}
