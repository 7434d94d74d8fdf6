import type { SoundDocument } from '../document/index.js';
import { renderLoopSteps, type LoopRender, type RenderOptions } from '../engine/index.js';
import { systemsOf } from '../translation/index.js';
import { depthOfLayers, type DepthSpectra } from './depth.js';
import { systemsByNotes, type NoteOnSystems } from './passes/systems-by-notes.js';
import { layersTold, type Told } from './told.js';

/** What figures and words need of a sound's first loop, rendered with its stems, beside its pass. */
export interface LoopFindings {
  /** What a listener gets of each note of the line, on each playback system. */
  readonly heard: readonly NoteOnSystems[];
  /** Layers that cancel each other's lows. */
  readonly cancelling: readonly Told[];
}

/** The same, with what is drawn of its layers. */
export interface BesideLook extends LoopFindings {
  readonly layers: DepthSpectra['layers'];
}

/** What figures and words need of a loop that was rendered with its stems. */
export const findingsOf = (document: SoundDocument, render: LoopRender): LoopFindings => ({
  heard: systemsByNotes(document, render, systemsOf(document)),
  cancelling: layersTold(document, render),
});

/** All that is looked for in such a loop beside its pass. */
export const besideLookOf = (document: SoundDocument, render: LoopRender): BesideLook => ({
  ...findingsOf(document, render),
  layers: depthOfLayers(render),
});

/**
 * Renders a loop with its stems and looks at it, in steps that yield the share done: for a host that does so beside the
 * measuring, with the layers in `options.cache`, following what that mixes by `options.follows`.
 */
export function* besideLookSteps(
  document: SoundDocument,
  options: Omit<RenderOptions, 'stems'>,
): Generator<number, BesideLook> {
  return besideLookOf(document, yield* renderLoopSteps(document, { ...options, stems: 'shares' }));
}
