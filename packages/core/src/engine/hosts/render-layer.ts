import { asBuilt, type SoundDocument } from '../../document/index.js';
import type { Assets, Stereo } from '../base/recording.js';
import { keep, seamFrames, silence, turnInto } from '../base/samples.js';
import { LayerPlayer, type LayerPlayerOptions } from '../layer/layer-player.js';
import { seedOf, tellLayer } from './assembly.js';
import { eventList, noteMarks, type EventList } from './events.js';
import { HeardTrack, type HeardBlocks } from './heard-track.js';
import { Tracer, watchedIn, type Trace } from './moved.js';
import { layerKey } from './rebuild-keys.js';
import { runLoop, type Run } from './run-loop.js';
import type { ChainTape } from '../units/chain-tape.js';

/** A layer's own render, with what was traced and written down of it. */
export interface LayerRender extends Stereo {
  readonly moved: readonly Trace[];
  readonly tape: ChainTape | null;
}

/** Plays a layer as its loop runs, and keeps what it gives; a class for the reason that `LoopMixing` is one. */
class LayerRun implements Run {
  readonly audio: Stereo;

  constructor(
    private readonly events: EventList,
    private readonly player: LayerPlayer,
    private readonly track: HeardBlocks | null,
    private readonly tracer: Tracer | null,
    total: number,
  ) {
    this.audio = silence(total, player.stereo);
  }

  event(index: number): void {
    tellLayer(this.player, this.events, index);
  }

  step(at: number, frames: number, place: number): void {
    const { player, audio } = this;
    this.track?.next();
    player.render(frames, place);
    this.tracer?.take(place);
    if (player.silent) return;
    keep(player.left, 0, frames, audio.left, at);
    if (player.stereo) keep(player.right, 0, frames, audio.right, at);
  }
}

/** Renders a layer alone over `total` frames of a loop from `start` on, as the mix is given it. */
export function* renderLayer(
  document: SoundDocument,
  index: number,
  events: EventList,
  start: number,
  total: number,
  options: LayerPlayerOptions & {
    readonly track?: HeardBlocks | null;
    readonly traced?: boolean;
    readonly taped?: boolean;
  },
): Generator<number, LayerRender> {
  const track = options.track ?? null;
  const player = new LayerPlayer(document, document.layers[index], { ...options, heard: track });
  player.takeMarks(noteMarks(events));
  const tape = options.taped ? player.record(total) : null;
  const tracer = options.traced ? new Tracer(watchedIn(document, player), events.loopFrames) : null;
  const run = new LayerRun(events, player, track, tracer, total);
  yield* runLoop(events, options.sampleRateHz, start, total, run);
  return { ...run.audio, moved: tracer?.traces ?? [], tape };
}

/**
 * What of a document a layer's render depends on, as a text: while it stays the same a frozen layer may go
 * on. Whether the layer is on is no part of it.
 */
export function freezeKey(document: SoundDocument, layerId: string, sampleRateHz: number): string {
  const layers = asBuilt(document).layers.map((layer) =>
    layer.id === layerId ? { ...layer, on: true } : layer,
  );
  return layerKey(
    { ...asBuilt(document), layers },
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
  const built = asBuilt(document);
  const layers = built.layers.map((layer) => (layer.id === layerId ? { ...layer, on: true } : layer));
  const whole = { ...built, layers };
  const events = eventList(whole, sampleRateHz);
  const loop = events.loopFrames;
  const heard = new HeardTrack(whole, events, { sampleRateHz, assets });
  heard.over(0, 2 * loop);
  const { left, right } = yield* renderLayer(
    whole,
    layers.findIndex(({ id }) => id === layerId),
    events,
    0,
    2 * loop,
    { sampleRateHz, seed: seedOf(whole, 0), assets, track: heard.blocksFor() },
  );
  // The second round: what hangs over the loop's end stands at its start.
  const seam = Math.min(loop, seamFrames(sampleRateHz));
  const round = (side: Float32Array) => {
    const kept = side.slice(loop);
    turnInto(kept, side.subarray(loop - seam, loop));
    return kept;
  };
  const kept = round(left);
  return { left: kept, right: right === left ? kept : round(right) };
}
