import type { SoundDocument } from '../document/index.js';
import { renderLoopSteps, type LoopRender, type RenderOptions } from '../engine/index.js';
import { depthOfLayers, type DepthSpectra } from './depth.js';
import { layersTold, type Told } from './told.js';

/** What the depth chart shows of a loop's layers, and what is told of them: all that needs their stems. */
export interface StemsLook {
  readonly layers: DepthSpectra['layers'];
  /** Layers that cancel each other's lows. */
  readonly cancelling: readonly Told[];
}

/** What is found in the stems of a rendered loop. */
export const stemsLookOf = (document: SoundDocument, render: LoopRender): StemsLook => ({
  layers: depthOfLayers(render),
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
