import { BLOCK } from '../../dsp/index.js';
import { asBuilt, type SoundDocument, type UnitPlace } from '../../document/index.js';
import { shareOf, toEnd } from '../../units/index.js';
import type { Assets, Recording, Stereo } from '../base/recording.js';
import { keep, keepSum, seamFrames, silence, take, turnInto } from '../base/samples.js';
import { kickRecordingOf } from '../kick/kick-recording.js';
import { kickFrames } from '../kick/render-kick.js';
import { isStereo } from '../layer/layer-sides.js';
import type { Mix, Stems } from '../mix/mix.js';
import { MixWriter, type MixPart, type MixReader } from '../mix/mix-parts.js';
import { STEMS_SETTLE_S } from '../mix/stem-taps.js';
import type { ChainTape } from '../units/chain-tape.js';
import { Assembly, seedOf } from './assembly.js';
import { briefStart } from './brief-start.js';
import { eventList, noteMarks, type EventList } from './events.js';
import { keepChains, type ChainCache } from './kept-chains.js';
import { HeardTrack, type HeardBlocks } from './heard-track.js';
import { Tracer, watchedInMix, type Trace } from './moved.js';
import { layerKey } from './rebuild-keys.js';
import { renderLayer, type LayerRender } from './render-layer.js';
import { runLoop, STRETCH_S } from './run-loop.js';

/** A loop as it sounds once it runs round: what hangs over its end stands at its start. */
export interface LoopRender {
  readonly sampleRateHz: number;
  readonly frames: number;
  readonly kick: Stereo;
  readonly bass: Stereo;
  readonly all: Stereo;
  /**
   * Each layer's share of the bass, after clip, level and ducking: they add up to it. Dry ones are as they go
   * into the clip.
   */
  readonly layers: readonly (Stereo & { readonly id: string })[];
  /** The bass in mono before ducking and ceiling. */
  readonly bassBefore: Float32Array;
  /** Gain of the ducking, whatever it acts on, every `DUCKING_FRAMES`; null while it is off. */
  readonly ducking: Float32Array | null;
  /** The backing parts, summed; null where there is none. They are not part of `all`. */
  readonly backing: Stereo | null;
  /** Where all that is moved stands, and all that moves; empty unless it was traced. */
  readonly moved: readonly Trace[];
  /** What was written down of a chain; null unless it was asked for. Its end is the loop. */
  readonly tape: ChainTape | null;
}

/**
 * Layers rendered before, kept from one render to the next so that those that did not change need not be
 * rendered again.
 */
export type LayerCache = Map<string, { readonly key: string; readonly audio: LayerRender }>;

export interface RenderOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  /** Number of the seeded pass; passes differ where phases or movers run free. */
  readonly pass?: number;
  readonly cache?: LayerCache;
  readonly chains?: ChainCache;
  /** Which stems of the layers are wanted as well; 'shares' unless set. */
  readonly stems?: Stems;
  /**
   * Whether only the end of the first round is run before the one that is kept, from a moment at which no
   * note sounds, instead of all of it: enough for what hangs over the loop's end,
   * not for what runs free or builds up over a whole round.
   */
  readonly brief?: boolean;
  /** Whether what moves is traced over the loop. */
  readonly traced?: boolean;
  /** The chain of which is written down what goes in and what each unit gives. */
  readonly taped?: UnitPlace | null;
  /** Given all that a render of the same with stems, made elsewhere, needs to follow this one. */
  readonly onPart?: (part: MixPart) => void;
  /**
   * What such a render, of another host, gives: it is followed, and grit and ceiling are not run. The next step is to be
   * made only once it is `ready`. Only with stems.
   */
  readonly follows?: MixReader;
}

/** Seconds that are mixed between two yields, at most. */
const MOST_S = STRETCH_S + 0.01;

/** Frames between two values of the ducking that a loop render keeps. */
export const DUCKING_FRAMES = BLOCK;

/** What the layers are taken to be of the work; the rest is the mix. */
const LAYERS_SHARE = 0.8;

/** Turns the ends of a loop's signals into `lead`, what was heard up to its start. */
function closeSeams(loop: LoopRender, lead: LoopRender): void {
  const signals = ({ kick, bass, all, bassBefore, backing, layers }: LoopRender) =>
    [kick, bass, all, ...(backing ? [backing] : []), ...layers]
      .flatMap(({ left, right }) => (right === left ? [left] : [left, right]))
      .concat(bassBefore);
  const before = signals(lead);
  signals(loop).forEach((signal, s) => {
    turnInto(signal, before[s]);
  });
}

/** What is written of a loop while it is mixed, silent as yet. */
function emptyLoop(
  document: SoundDocument,
  assembly: Assembly,
  layers: readonly LayerAudio[],
  frames: number,
  stereo: boolean,
  { sampleRateHz, stems = 'shares' }: RenderOptions,
): LoopRender {
  const { kick, backing } = assembly;
  const shared = stems === 'shares';
  return {
    sampleRateHz,
    frames,
    kick: silence(frames, kick.stereo),
    bass: silence(frames, stereo),
    all: silence(frames, stereo || kick.stereo),
    bassBefore: new Float32Array(frames),
    ducking: document.duck.on ? new Float32Array(Math.ceil(frames / DUCKING_FRAMES)).fill(1) : null,
    backing: backing.length > 0 ? silence(frames, true) : null,
    moved: [],
    tape: null,
    layers:
      stems === 'none'
        ? []
        : layers.map(({ id, left, right }) => ({
            id,
            ...silence(frames, left !== right || (stereo && shared)),
          })),
  };
}

/** Keeps both sides of a block, or the left one alone where they are one. */
function keepSides(
  left: Float64Array,
  right: Float64Array,
  from: number,
  frames: number,
  audio: Stereo,
  at: number,
): void {
  keep(left, from, frames, audio.left, at);
  if (audio.right !== audio.left) keep(right, from, frames, audio.right, at);
}

/**
 * Keeps what the mix has made of a step, the first `from` frames of which lie before the loop, as the loop's
 * samples from `at` on.
 */
function keepStep(mix: Mix, from: number, frames: number, out: LoopRender, at: number): void {
  keepSides(mix.kickLeft, mix.kickRight, from, frames, out.kick, at);
  keepSides(mix.bassLeft, mix.bassRight, from, frames, out.bass, at);
  keepSum(mix.kickLeft, mix.bassLeft, from, frames, out.all.left, at);
  if (out.all.right !== out.all.left) keepSum(mix.kickRight, mix.bassRight, from, frames, out.all.right, at);
  keep(mix.bassBefore, from, frames, out.bassBefore, at);
  // The gain is that of the bass as it goes in; it comes out so much later.
  if (out.ducking)
    out.ducking[Math.min(out.ducking.length - 1, Math.floor((at + from) / DUCKING_FRAMES))] = mix.ducking;
  if (out.backing) keepSides(mix.backLeft, mix.backRight, from, frames, out.backing, at);
  out.layers.forEach((layer, l) => {
    keepSides(mix.stems.taps[l].left, mix.stems.taps[l].right, from, frames, layer, at);
  });
}

/** A layer as it was rendered by itself. */
interface LayerAudio extends LayerRender {
  readonly id: string;
  readonly role: string;
}

/** What a loop is rendered from: its parts, and the stretch over which they run. */
interface LoopPlan {
  readonly document: SoundDocument;
  readonly events: EventList;
  readonly assembly: Assembly;
  readonly heard: HeardTrack;
  readonly track: HeardBlocks | null;
  /** Where the first round begins, the frames before the loop that is kept, and all of them. */
  readonly start: number;
  readonly first: number;
  readonly total: number;
}

/** Where the first round begins; the kick's recording is asked for only where it matters. */
function startOf(
  document: SoundDocument,
  events: EventList,
  { sampleRateHz, brief = false }: RenderOptions,
  recording: () => Recording | null,
): number {
  return brief
    ? briefStart(document, events, kickFrames(document.kick, recording(), sampleRateHz), sampleRateHz)
    : 0;
}

function planOf(written: SoundDocument, options: RenderOptions): LoopPlan {
  const document = asBuilt(written);
  const { sampleRateHz, assets = new Map(), pass = 0, stems = 'shares', traced = false } = options;
  const events = eventList(document, sampleRateHz);
  const stereo = document.layers.some((layer) => isStereo(document, layer));
  const heard = new HeardTrack(document, events, { sampleRateHz, assets });
  const track = heard.blocksFor();
  const assembly = new Assembly(document, {
    sampleRateHz,
    seed: seedOf(document, pass),
    assets,
    stems,
    stereo,
    heard: track,
    watched: traced,
  });
  assembly.mix.takeMarks(noteMarks(events));
  const start = startOf(document, events, options, () => assembly.kickRecording);
  const first = events.loopFrames - start + assembly.mix.latencyFrames;
  return { document, events, assembly, heard, track, start, first, total: first + events.loopFrames };
}

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
function* renderLayers(plan: LoopPlan, options: RenderOptions): Generator<number, LayerAudio[]> {
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

/**
 * Renders a loop in steps, yielding the share done, so that a host can show progress and stop. The loop is
 * run twice and the
 * second round is kept. The same document, rate and pass give the same samples on every host.
 */
export function* renderLoopSteps(
  written: SoundDocument,
  options: RenderOptions,
): Generator<number, LoopRender> {
  const { sampleRateHz, pass = 0, traced = false, taped = null, chains = null, onPart, follows } = options;
  const plan = planOf(written, options);
  const { document, events, assembly, heard, track, start, first, total } = plan;
  const loop = events.loopFrames;
  const { mix } = assembly;
  const tracer = traced ? new Tracer(watchedInMix(document, mix), loop) : null;
  const tape = taped ? (mix.chainAt(taped)?.record(total) ?? null) : null;
  const stemsFrom = first - STEMS_SETTLE_S * sampleRateHz;
  const most = Math.ceil(MOST_S * sampleRateHz);
  let mixed = 0;
  const lookAhead = () => {
    if (follows) follows.needs = mixed + most > stemsFrom ? most : 0;
  };
  if (follows) mix.follow(follows);
  lookAhead();
  heard.over(start, total);
  const layers = yield* renderLayers(plan, options);
  const blocks = layers.map(({ role, left, right }) => {
    const block = new Float64Array(BLOCK);
    return { role, silent: false, left: block, right: right === left ? block : new Float64Array(BLOCK) };
  });
  const out = emptyLoop(document, assembly, layers, loop, mix.stereo, options);
  // A brief run has not settled before the loop's start.
  const seam = options.brief ? 0 : Math.min(loop, seamFrames(sampleRateHz));
  const lead = emptyLoop(document, assembly, layers, seam, mix.stereo, options);
  const writer = onPart ? new MixWriter(most, mix.stereo) : null;
  if (writer) mix.writeTo(writer);
  const handOver = (last: boolean) => {
    const part = writer?.take(last);
    if (part) onPart!(part);
  };
  const keepWritten = chains
    ? keepChains(document, mix, chains, {
        pass,
        sampleRateHz,
        start,
        frames: total,
        taped,
      })
    : null;
  const mixing = runLoop(events, sampleRateHz, start, total, {
    event: (index) => {
      assembly.event(events, index);
    },
    step: (at, frames, place) => {
      track?.next();
      mix.stems.ask(at >= stemsFrom);
      mixed = at + frames;
      for (const [l, { left, right }] of layers.entries()) {
        take(left, at, blocks[l].left, frames);
        if (right !== left) take(right, at, blocks[l].right, frames);
      }
      assembly.render(blocks, frames, place);
      tracer?.take(place);
      const from = Math.max(0, first - at);
      if (from < frames) keepStep(mix, from, frames, out, at - first);
      if (from > 0 && at + frames > first - seam)
        keepStep(mix, Math.max(0, first - seam - at), Math.min(from, frames), lead, at - (first - seam));
    },
    round: () => {
      mix.comeRound();
    },
  });
  for (let step = mixing.next(); !step.done; step = mixing.next()) {
    handOver(false);
    lookAhead();
    yield LAYERS_SHARE + (1 - LAYERS_SHARE) * step.value;
  }
  handOver(true);
  keepWritten?.();
  closeSeams(out, lead);
  yield 1;
  return {
    ...out,
    moved: tracer ? [...layers.flatMap(({ moved }) => moved), ...tracer.traces] : [],
    tape: tape ?? layers.find((layer) => layer.tape)?.tape ?? null,
  };
}

/** Renders a loop at once; see `renderLoopSteps`. */
export function renderLoop(document: SoundDocument, options: RenderOptions): LoopRender {
  return toEnd(renderLoopSteps(document, options));
}
