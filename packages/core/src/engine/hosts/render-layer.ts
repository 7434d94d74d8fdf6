import type { SoundDocument } from '../../document/index.js';
import type { Assets, Stereo } from '../base/recording.js';
import { keep, silence } from '../base/samples.js';
import { LayerPlayer, type LayerPlayerOptions } from '../layer/layer-player.js';
import { seedOf, tellLayer } from './assembly.js';
import { eventList, type EventList } from './events.js';
import { layerKey } from './rebuild-keys.js';
import { runLoop } from './run-loop.js';

/** Renders a layer alone over `total` frames of a loop from `start` on, as the mix is given it. */
export function* renderLayer(
  document: SoundDocument,
  index: number,
  events: EventList,
  start: number,
  total: number,
  options: LayerPlayerOptions,
): Generator<number, Stereo> {
  const player = new LayerPlayer(document, document.layers[index], options);
  const audio = silence(total, player.stereo);
  yield* runLoop(events, options.sampleRateHz, start, total, {
    event: (i) => {
      tellLayer(player, events, i);
    },
    step: (at, frames) => {
      player.render(frames);
      if (player.silent) return;
      keep(player.left, 0, frames, audio.left, at);
      if (player.stereo) keep(player.right, 0, frames, audio.right, at);
    },
  });
  return audio;
}

/**
 * What of a document a layer's render depends on, as a text: while it stays the same a frozen layer may go
 * on. Whether the layer is on is no part of it.
 */
export function freezeKey(document: SoundDocument, layerId: string, sampleRateHz: number): string {
  const layers = document.layers.map((layer) => (layer.id === layerId ? { ...layer, on: true } : layer));
  return layerKey(
    { ...document, layers },
    document.layers.findIndex(({ id }) => id === layerId),
    sampleRateHz,
    0,
    0,
  );
}

/**
 * Renders a layer's own loop, as the mix is given it, in steps that yield the share done: what
 * `Engine.freeze` plays back.
 */
export function* freezeSteps(
  document: SoundDocument,
  layerId: string,
  { sampleRateHz, assets = new Map() }: { readonly sampleRateHz: number; readonly assets?: Assets },
): Generator<number, Stereo> {
  const layers = document.layers.map((layer) => (layer.id === layerId ? { ...layer, on: true } : layer));
  const whole = { ...document, layers };
  const events = eventList(whole, sampleRateHz);
  const loop = events.loopFrames;
  const { left, right } = yield* renderLayer(
    whole,
    layers.findIndex(({ id }) => id === layerId),
    events,
    0,
    2 * loop,
    { sampleRateHz, seed: seedOf(whole, 0), assets },
  );
  // The second round: what hangs over the loop's end stands at its start.
  const kept = left.slice(loop);
  return { left: kept, right: right === left ? kept : right.slice(loop) };
}
