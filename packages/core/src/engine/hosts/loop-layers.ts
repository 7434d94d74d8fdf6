import { asBuilt, type SoundDocument } from '../../document/index.js';
import { shareOf } from '../../units/index.js';
import { kickRecordingOf } from '../kick/kick-recording.js';
import { seedOf } from './assembly.js';
import { eventList } from './events.js';
import type { LayerAudio } from './loop-keeping.js';
import { planOf, startOf, type LoopPlan } from './loop-plan.js';
import type { RenderOptions } from './loop-render.js';
import { layerKey } from './rebuild-keys.js';
import { renderLayer, type LayerRender } from './render-layer.js';

/** What the layers are taken to be of the work; the rest is the mix. */
export const LAYERS_SHARE = 0.8;

/** A layer's place in the cache, and what its render depends on. */
function cachePlace(
  { document, start }: Pick<LoopPlan, 'document' | 'start'>,
  index: number,
  { sampleRateHz, pass = 0, traced = false }: RenderOptions,
): { readonly name: string; readonly key: string } {
  return {
    name: `${document.layers[index].id} ${pass}`,
    key: layerKey(document, index, sampleRateHz, pass, start, traced ? 1 : 0),
  };
}

/** A layer in the cache that is the one asked for; one that was traced sounds as one that was not. */
function keptLayer(
  plan: Pick<LoopPlan, 'document' | 'start'>,
  index: number,
  options: RenderOptions,
): LayerRender | null {
  const { name, key } = cachePlace(plan, index, options);
  const kept = options.cache?.get(name);
  const serves = kept?.key === key || kept?.key === cachePlace(plan, index, { ...options, traced: true }).key;
  return kept && serves ? kept.audio : null;
}

/** Renders one layer of a loop by itself. */
function renderAlone(
  { document, events, heard, start, total }: LoopPlan,
  index: number,
  { sampleRateHz, assets = new Map(), pass = 0, traced = false }: RenderOptions,
  taped: boolean,
): Generator<number, LayerRender> {
  return renderLayer(document, index, events, start, total, {
    sampleRateHz,
    seed: seedOf(document, pass),
    assets,
    traced,
    taped,
    track: heard.blocksFor(),
  });
}

/** Renders every layer by itself, or takes it from the cache. */
export function* renderLayers(plan: LoopPlan, options: RenderOptions): Generator<number, LayerAudio[]> {
  const { cache, taped = null } = options;
  const { layers } = plan.document;
  const out: LayerAudio[] = [];
  const part = LAYERS_SHARE / layers.length;
  for (const [l, { id, role }] of layers.entries()) {
    const tapes = taped?.in === 'layer' && taped.id === id;
    const kept = tapes ? null : keptLayer(plan, l, options);
    const audio = kept ?? (yield* shareOf(renderAlone(plan, l, options, tapes), part * l, part));
    // What was written down of it is asked for once, and long.
    if (!kept && !tapes) {
      const { name, key } = cachePlace(plan, l, options);
      cache?.set(name, { key, audio });
    }
    out.push({ ...audio, id, role });
    yield part * (l + 1);
  }
  return out;
}

/** Where each layer's render stands in a cache, and what it depends on. */
export function cachePlaces(
  written: SoundDocument,
  options: RenderOptions,
): { readonly name: string; readonly key: string }[] {
  const document = asBuilt(written);
  const { sampleRateHz, assets = new Map() } = options;
  const start = startOf(document, eventList(document, sampleRateHz), options, () =>
    kickRecordingOf(document, assets, sampleRateHz),
  );
  return document.layers.map((_, index) => cachePlace({ document, start }, index, options));
}

/**
 * The places of the layers that a loop render with these options would render anew, for a host that renders them side by
 * side: `renderLayerSteps` makes what it then finds in `options.cache`.
 */
export function layersToRender(document: SoundDocument, options: RenderOptions): number[] {
  return cachePlaces(document, options).flatMap(({ name, key }, index) =>
    options.cache?.get(name)?.key === key ? [] : [index],
  );
}

/** A layer as a loop render with the same options finds it in its cache. */
export interface CachedLayer {
  readonly name: string;
  readonly entry: { readonly key: string; readonly audio: LayerRender };
}

/** Renders one layer of a loop, by its place, in steps that yield the share done. */
export function* renderLayerSteps(
  document: SoundDocument,
  index: number,
  options: RenderOptions,
): Generator<number, CachedLayer> {
  const plan = planOf(document, options);
  plan.heard.over(plan.start, plan.total);
  const { name, key } = cachePlace(plan, index, options);
  return { name, entry: { key, audio: yield* renderAlone(plan, index, options, false) } };
}
