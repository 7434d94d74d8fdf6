import type { SoundDocument } from '../../document/index.js';
import { moverKindOf } from '../../kinds/movers/index.js';

/** Whether anything in a sound runs free, so that one pass of the loop differs from the next. */
export function runsFree(document: SoundDocument): boolean {
  return (
    document.layers.some(
      (layer) =>
        layer.on &&
        layer.tones.some((tone) => tone.on && (tone.startPhase === 'free' || tone.driftCents > 0)),
    ) ||
    document.movers.some(
      (mover) =>
        mover.on &&
        moverKindOf(mover.kind).runsFree?.(mover) &&
        document.links.some((link) => link.on && link.mover === mover.id),
    )
  );
}
