import type { SoundDocument } from '../document/index.js';
import { layersToRender, renderLayerSteps, runsFree, type CachedLayer } from '../engine/index.js';
import { FREE_PASSES, type SoundingOptions } from './sounding.js';
import { toneAloneSteps, toneIsToRender, tonesAlone } from './tone-alone.js';

/** Something of one layer that measuring a sound renders by itself. */
export interface LayerJob {
  readonly index: number;
  readonly pass: number;
  readonly traced: boolean;
  /** The one of its tones that is rendered alone; null where all of it is. */
  readonly tone: number | null;
}

/** What `soundingSteps` would render of layers anew, for a host that renders them side by side into its cache. */
export function layerJobs(document: SoundDocument, options: SoundingOptions): LayerJob[] {
  const passes = Array.from({ length: runsFree(document) ? FREE_PASSES : 1 }, (_, pass) => {
    const traced = true;
    return layersToRender(document, { ...options, pass, traced }).map((index) => ({
      index,
      pass,
      traced,
      tone: null,
    }));
  });
  const tones = document.layers.flatMap((layer, index) =>
    tonesAlone(document, layer)
      .filter((tone) => toneIsToRender(document, layer, tone, options))
      .map((tone) => ({ index, pass: 0, traced: false, tone })),
  );
  return [...passes.flat(), ...tones];
}

/** Does one of them, in steps that yield the share done. */
export function layerJobSteps(
  document: SoundDocument,
  { index, pass, traced, tone }: LayerJob,
  options: SoundingOptions,
): Generator<number, CachedLayer> {
  return tone === null
    ? renderLayerSteps(document, index, { ...options, pass, traced })
    : toneAloneSteps(document, document.layers[index], tone, options);
}
