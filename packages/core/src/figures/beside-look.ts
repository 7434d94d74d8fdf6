import type { SoundDocument } from '../document/index.js';
import { depthOf, type DepthSignals, type DepthSpectra } from './depth.js';
import { layersTold, type Told } from './told.js';

/** What is found in a sound's first loop with its stems, beside its pass. */
export interface BesideLook {
  /** Layers that cancel each other's lows. */
  readonly cancelling: readonly Told[];
  readonly depth: DepthSpectra;
}

/** What is found in such a loop; its stems may have been rendered by another host than the rest of it. */
export const besideLookOf = (document: SoundDocument, loop: DepthSignals): BesideLook => ({
  cancelling: layersTold(document, loop),
  depth: depthOf(loop),
});
