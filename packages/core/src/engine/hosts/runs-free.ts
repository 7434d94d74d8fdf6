import { linksInto, netOf, type SoundDocument } from '../../document/index.js';
import { moverKindOf } from '../../kinds/movers/index.js';
import { lowestLayer } from '../layer/lowest-tone.js';

const phasesRunFree = ({ layers }: SoundDocument) =>
  layers.some(
    (layer) =>
      layer.on && layer.tones.some((tone) => tone.on && (tone.startPhase === 'free' || tone.driftCents > 0)),
  );

/** Whether a mover that runs free carries what these links reach, by whatever ways it goes. */
const movedFree = (document: SoundDocument, links: readonly number[]) =>
  netOf(document, links).some(({ kind, index }) => {
    const mover = kind === 'source' ? document.movers.at(index) : undefined;
    return mover !== undefined && mover.on && moverKindOf(mover.kind).runsFree?.(mover) === true;
  });

/** Whether anything in a sound runs free, so that one pass of the loop differs from the next. */
export function runsFree(document: SoundDocument): boolean {
  const links = document.links.flatMap(({ on }, index) => (on ? [index] : []));
  return phasesRunFree(document) || movedFree(document, links);
}

/**
 * Whether the bass meets the kick in another phase at each pass: phases run free, or chance moves the lowest
 * layer or the mix. What it moves in other layers is for their tops, and no reason to give up a turn.
 */
export function lowsRunFree(document: SoundDocument): boolean {
  const links = [...linksInto(document, lowestLayer(document).id), ...linksInto(document, null)];
  return phasesRunFree(document) || movedFree(document, links);
}
