import type { Duck, SoundDocument } from '../../document/index.js';
import { toEnd } from '../../units/index.js';
import { BLOCK } from '../base/chunk.js';
import type { Assets, Stereo } from '../base/recording.js';
import { kickFrames } from '../kick/render-kick.js';
import { isStereo, LayerPlayer, type LayerPlayerOptions } from '../layer/layer-player.js';
import { lowestTone } from '../layer/lowest-tone.js';
import type { Stems } from '../mix/mix.js';
import { engineOf } from '../movers/mover-engines.js';
import { Assembly, seedOf, tellLayer } from './assembly.js';
import { bassNudgeMs, DUCK, eventList, KICK, NOTE_ON, sourcesAt, type EventList } from './events.js';
import { framesToGo } from './instrument.js';

/** A loop as it sounds once it runs round: what hangs over its end stands at its start. */
export interface LoopRender {
  readonly sampleRateHz: number;
  readonly frames: number;
  readonly kick: Stereo;
  readonly bass: Stereo;
  readonly all: Stereo;
  /** Each layer's share of the bass, after clip, level and ducking: they add up to it. Dry ones are as they go into the clip. */
  readonly layers: readonly (Stereo & { readonly id: string })[];
  /** The bass in mono before ducking and ceiling. */
  readonly bassBefore: Float32Array;
  /** Gain of the ducking, whatever it acts on, every `DUCKING_FRAMES`; null while it is off. */
  readonly ducking: Float32Array | null;
  /** The backing parts, summed; null where there is none. They are not part of `all`. */
  readonly backing: Stereo | null;
}

/** Layers rendered before, kept from one render to the next so that those that did not change need not be rendered again. */
export type LayerCache = Map<string, { key: string; audio: Stereo }>;

export interface RenderOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  /** Number of the seeded pass; passes differ where phases or movers run free. */
  readonly pass?: number;
  readonly cache?: LayerCache;
  /** Which stems of the layers are wanted as well; 'shares' unless set. */
  readonly stems?: Stems;
  /**
   * Whether only the end of the first round is run before the one that is kept, from a moment at which no note sounds, instead of all of it: enough for what hangs over the loop's end,
   * not for what runs free or builds up over a whole round.
   */
  readonly brief?: boolean;
}

/** Two sides of silence; one array serves both where they cannot differ. */
function silence(frames: number, stereo: boolean): Stereo {
  const left = new Float32Array(frames);
  return { left, right: stereo ? new Float32Array(frames) : left };
}

/** Keeps a block from `from` on as the samples of a loop from `at` on. */
function keep(block: Float64Array, from: number, frames: number, audio: Float32Array, at: number): void {
  for (let i = from; i < frames; i++) audio[at + i] = block[i];
}

/** Takes a block out of the samples of a loop. */
function take(audio: Float32Array, at: number, block: Float64Array, frames: number): void {
  for (let i = 0; i < frames; i++) block[i] = audio[at + i];
}

function keepSum(a: Float64Array, b: Float64Array, from: number, frames: number, audio: Float32Array, at: number): void {
  for (let i = from; i < frames; i++) audio[at + i] = a[i] + b[i];
}

/** Frames between two values of the ducking that a loop render keeps. */
export const DUCKING_FRAMES = BLOCK;

/** Shortest run before the round that is kept, in seconds. */
const BRIEF_S = 0.3;

/** How long ducking lasts that began by a beat, in seconds; endless where it follows a recording that may last as long as the loop. */
function duckingS({ on, by, from, attackMs, holdMs, returnMs }: Duck): number {
  if (!on) return 0;
  return by === 'level' && from !== 'kick' ? Infinity : (attackMs + holdMs + returnMs) / 1000;
}

/**
 * The latest frame from which a brief run may begin: no note sounds there, and what began before has ended by the loop's end: notes with their release, hits of the kick
 * with the ducking that follows them. 0 where there is none.
 */
function briefStart(document: SoundDocument, events: EventList, kickLength: number, sampleRateHz: number): number {
  const releaseS = Math.max(...document.layers.map(({ loudness }) => loudness.releaseMs)) / 1000;
  let latest = events.loopFrames - Math.round((BRIEF_S + releaseS) * sampleRateHz);
  const hangs = events.loopFrames - kickLength - duckingS(document.duck) * sampleRateHz;
  for (let i = 0; i < events.frame.length; i++) if ((events.type[i] === KICK || events.type[i] === DUCK) && events.frame[i] > hangs) latest = Math.min(latest, events.frame[i]);
  for (let i = events.frame.length - 1; i >= 0; i--) {
    if (events.type[i] === NOTE_ON && events.frame[i] <= latest && sourcesAt(events, events.frame[i] - 1).size === 0) return events.frame[i];
  }
  return 0;
}

/** Seconds of sound between two yields of a render. */
const STRETCH_S = 1;

/** Runs the loop's events and blocks over `total` frames, round and round from a place in the loop, and tells each time it comes round; yields the share done now and then. */
function* run(events: EventList, sampleRateHz: number, start: number, total: number, event: (index: number) => void, step: (at: number, frames: number) => void, round?: () => void): Generator<number, void> {
  let place = start;
  let index = 0;
  while (index < events.frame.length && events.frame[index] < start) index++;
  let at = 0;
  let rest = STRETCH_S * sampleRateHz;
  while (at < total) {
    if (place >= events.loopFrames) {
      place = index = 0;
      round?.();
    }
    while (index < events.frame.length && events.frame[index] <= place) event(index++);
    const until = index < events.frame.length ? events.frame[index] : events.loopFrames;
    const go = Math.min(total - at, framesToGo(place, until, at));
    step(at, go);
    place += go;
    at += go;
    if (at < rest) continue;
    rest += STRETCH_S * sampleRateHz;
    yield at / total;
  }
}

/** What the layers are taken to be of the work; the rest is the mix. */
const LAYERS_SHARE = 0.8;

/** Steps whose share is a part of a larger one, from `from` on. */
function* shareOf<T>(steps: Generator<number, T>, from: number, part: number): Generator<number, T> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    yield from + part * step.value;
  }
}

function layerKey(document: SoundDocument, index: number, sampleRateHz: number, pass: number, start: number): string {
  const layer = document.layers[index];
  const links = document.links.filter((link) => link.target.startsWith(`layers.${layer.id}.`));
  const movers = document.movers.filter((mover) => links.some((link) => link.mover === mover.id));
  const lowest = lowestTone(document);
  return JSON.stringify([layer, links, movers, document.movers.length, document.line, document.ground, document.kick.on, document.kick.hits, document.kick.swingPct, document.kick.shared ? document.kick.made : null, document.lock.turnDeg, document.lock.turns, bassNudgeMs(document), lowest.octave, lowest.semitones, document.seed, index, sampleRateHz, pass, start]);
}

function* renderLayer(document: SoundDocument, index: number, events: EventList, start: number, total: number, options: LayerPlayerOptions): Generator<number, Stereo> {
  const player = new LayerPlayer(document, document.layers[index], options);
  const audio = silence(total, player.stereo);
  yield* run(events, options.sampleRateHz, start, total, (i) => { tellLayer(player, events, i); }, (at, frames) => {
    player.render(frames);
    if (player.silent) return;
    keep(player.left, 0, frames, audio.left, at);
    if (player.stereo) keep(player.right, 0, frames, audio.right, at);
  });
  return audio;
}

/** What of a document a layer's render depends on, as a text: while it stays the same a frozen layer may go on. Whether the layer is on is no part of it. */
export function freezeKey(document: SoundDocument, layerId: string, sampleRateHz: number): string {
  const layers = document.layers.map((layer) => (layer.id === layerId ? { ...layer, on: true } : layer));
  return layerKey({ ...document, layers }, document.layers.findIndex(({ id }) => id === layerId), sampleRateHz, 0, 0);
}

/** Renders a layer's own loop, as the mix is given it, in steps that yield the share done: what `Engine.freeze` plays back. */
export function* freezeSteps(document: SoundDocument, layerId: string, { sampleRateHz, assets = new Map() }: Pick<RenderOptions, 'sampleRateHz' | 'assets'>): Generator<number, Stereo> {
  const layers = document.layers.map((layer) => (layer.id === layerId ? { ...layer, on: true } : layer));
  const whole = { ...document, layers };
  const events = eventList(whole, sampleRateHz);
  const loop = events.loopFrames;
  const { left, right } = yield* renderLayer(whole, layers.findIndex(({ id }) => id === layerId), events, 0, 2 * loop, { sampleRateHz, seed: seedOf(whole, 0), assets });
  // The second round: what hangs over the loop's end stands at its start.
  const kept = left.slice(loop);
  return { left: kept, right: right === left ? kept : right.slice(loop) };
}

/**
 * Renders a loop in steps, yielding the share done, so that a host can show progress and stop. The loop is run twice and the
 * second round is kept. The same document, rate and pass give the same samples on every host.
 */
export function* renderLoopSteps(document: SoundDocument, options: RenderOptions): Generator<number, LoopRender> {
  const { sampleRateHz, assets = new Map(), pass = 0, cache, stems = 'shares', brief = false } = options;
  const events = eventList(document, sampleRateHz);
  const seed = seedOf(document, pass);
  const loop = events.loopFrames;
  const stereoMix = document.layers.some((layer) => isStereo(document, layer));
  const assembly = new Assembly(document, { sampleRateHz, seed, assets, stems, stereo: stereoMix });
  const { kick, backing, mix } = assembly;
  const start = brief ? briefStart(document, events, kickFrames(document.kick, assembly.kickRecording, sampleRateHz), sampleRateHz) : 0;
  const before = loop - start;
  const total = before + loop + mix.latencyFrames;

  const sources: (Stereo & { role: string; id: string })[] = [];
  for (let l = 0; l < document.layers.length; l++) {
    const layer = document.layers[l];
    const key = layerKey(document, l, sampleRateHz, pass, start);
    const cacheName = `${layer.id} ${pass}`;
    const kept = cache?.get(cacheName);
    const audio = kept?.key === key ? kept.audio : yield* shareOf(renderLayer(document, l, events, start, total, { sampleRateHz, seed, assets }), LAYERS_SHARE * (l / document.layers.length), LAYERS_SHARE / document.layers.length);
    cache?.set(cacheName, { key, audio });
    sources.push({ ...audio, id: layer.id, role: layer.role });
    yield (LAYERS_SHARE * (l + 1)) / document.layers.length;
  }

  const blocks = sources.map((source) => {
    const left = new Float64Array(BLOCK);
    return { role: source.role, silent: false, left, right: source.right === source.left ? left : new Float64Array(BLOCK) };
  });
  const sides = stereoMix || kick.stereo;
  const out: LoopRender = {
    sampleRateHz, frames: loop, kick: silence(loop, kick.stereo), bass: silence(loop, stereoMix), all: silence(loop, sides), bassBefore: new Float32Array(loop), ducking: document.duck.on ? new Float32Array(Math.ceil(loop / DUCKING_FRAMES)).fill(1) : null, backing: backing.length > 0 ? silence(loop, true) : null,
    layers: stems !== 'none' ? sources.map(({ id, left, right }) => ({ id, ...silence(loop, left !== right || (stereoMix && stems === 'shares' && document.grit.clip.on)) })) : [],
  };
  const first = before + mix.latencyFrames;
  yield* shareOf(run(events, sampleRateHz, start, total, (i) => { assembly.event(events, i); }, (at, frames) => {
    for (let s = 0; s < sources.length; s++) {
      const source = sources[s];
      const block = blocks[s];
      take(source.left, at, block.left, frames);
      if (block.right !== block.left) take(source.right, at, block.right, frames);
    }
    assembly.render(blocks, frames);
    const to = at - first;
    const from = to < 0 ? -to : 0;
    if (from >= frames) return;
    keep(mix.kickLeft, from, frames, out.kick.left, to);
    if (kick.stereo) keep(mix.kickRight, from, frames, out.kick.right, to);
    keep(mix.bassLeft, from, frames, out.bass.left, to);
    if (stereoMix) keep(mix.bassRight, from, frames, out.bass.right, to);
    keepSum(mix.kickLeft, mix.bassLeft, from, frames, out.all.left, to);
    if (sides) keepSum(mix.kickRight, mix.bassRight, from, frames, out.all.right, to);
    keep(mix.bassBefore, from, frames, out.bassBefore, to);
    // The gain is that of the bass as it goes in; it comes out so much later.
    if (out.ducking) out.ducking[Math.min(out.ducking.length - 1, Math.floor((to + from) / DUCKING_FRAMES))] = mix.ducking;
    if (out.backing) {
      keep(mix.backLeft, from, frames, out.backing.left, to);
      keep(mix.backRight, from, frames, out.backing.right, to);
    }
    for (let s = 0; s < out.layers.length; s++) {
      const layer = out.layers[s];
      keep(mix.taps[s].left, from, frames, layer.left, to);
      if (layer.right !== layer.left) keep(mix.taps[s].right, from, frames, layer.right, to);
    }
  }, () => { mix.comeRound(); }), LAYERS_SHARE, 1 - LAYERS_SHARE);
  yield 1;
  return out;
}

/** Renders a loop at once; see `renderLoopSteps`. */
export function renderLoop(document: SoundDocument, options: RenderOptions): LoopRender {
  return toEnd(renderLoopSteps(document, options));
}

/** Whether anything in a sound runs free, so that one pass of the loop differs from the next. */
export function runsFree(document: SoundDocument): boolean {
  return document.layers.some((layer) => layer.on && layer.tones.some((tone) => tone.on && (tone.startPhase === 'free' || tone.driftCents > 0)))
    || document.movers.some((mover) => mover.on && engineOf(mover).runsFree(mover) && document.links.some((link) => link.on && link.mover === mover.id));
}
