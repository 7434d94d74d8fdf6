import type { SoundDocument } from '../document/index.js';
import {
  cachePlaces,
  layersToRender,
  renderLayerSteps,
  runsFree,
  type CachedLayer,
} from '../engine/index.js';
import { FREE_PASSES, type SoundingOptions } from './sounding.js';
import { toneAloneSteps, toneIsToRender, tonesAlone, type CachedTone } from './tone-alone.js';

/** Something of one layer that measuring a sound renders by itself. */
export interface LayerJob {
  readonly index: number;
  readonly pass: number;
  readonly traced: boolean;
  /** The one of its tones that is rendered alone; null where all of it is. */
  readonly tone: number | null;
}

/** What such a job makes. */
export type LayerJobDone =
  { readonly of: 'layer'; readonly made: CachedLayer } | { readonly of: 'tone'; readonly made: CachedTone };

/** What measuring a sound would render of layers anew, for a host that renders them side by side into its caches. */
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
export function* layerJobSteps(
  document: SoundDocument,
  { index, pass, traced, tone }: LayerJob,
  options: SoundingOptions,
): Generator<number, LayerJobDone> {
  return tone === null
    ? { of: 'layer', made: yield* renderLayerSteps(document, index, { ...options, pass, traced }) }
    : { of: 'tone', made: yield* toneAloneSteps(document, document.layers[index], tone, options) };
}

/** Puts what was made where measuring looks for it. */
export function keepJob({ cache, tones }: SoundingOptions, done: LayerJobDone): void {
  if (done.of === 'layer') cache?.set(done.made.name, done.made.entry);
  else tones?.set(done.made.name, done.made.entry);
}

/** The layers of a sound's first pass that are in the cache, for a host that looks at their stems elsewhere. */
export function firstLayers(document: SoundDocument, options: SoundingOptions): CachedLayer[] {
  return cachePlaces(document, { ...options, pass: 0, traced: true }).flatMap(({ name, key }) => {
    const entry = options.cache?.get(name);
    return entry?.key === key ? [{ name, entry }] : [];
  });
}
