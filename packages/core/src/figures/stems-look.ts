import type { SoundDocument } from '../document/index.js';
import { renderLoopSteps, type LoopRender, type RenderOptions } from '../engine/index.js';
import { depthOf, type DepthSpectra } from './depth.js';
import { layersTold, type Told } from './told.js';

/** What is found in a loop that was rendered with its stems: what the depth chart shows, and what is told of them. */
export interface StemsLook {
  readonly depth: DepthSpectra;
  /** Layers that cancel each other's lows. */
  readonly cancelling: readonly Told[];
}

/** What is found in a rendered loop with its stems. */
export const stemsLookOf = (document: SoundDocument, render: LoopRender): StemsLook => ({
  depth: depthOf(render),
  cancelling: layersTold(document, render),
});

/**
 * Renders a loop with its stems and looks at them, in steps that yield the share done: for a host that does so beside
 * the measuring, with the layers in `options.cache`, following what that mixes by `options.follows`.
 */
export function* stemsLookSteps(
  document: SoundDocument,
  options: Omit<RenderOptions, 'stems'>,
): Generator<number, StemsLook> {
  return stemsLookOf(document, yield* renderLoopSteps(document, { ...options, stems: 'shares' }));
}
