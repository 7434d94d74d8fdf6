import type { SoundDocument } from '../../document/index.js';
import { BLOCK } from '../base/chunk.js';
import { BackingPlayer, backingRecordings } from '../backing/backing-player.js';
import { BACKING, CARRY, DUCK, FOR_ALL, FOR_CARRIERS, KICK, NOTE_OFF, NOTE_ON, RESTART, sourcesAt, type EventList } from './events.js';
import { FrozenLayer } from './frozen-layer.js';
import { hardHoldMs } from '../kick/hard-hold.js';
import { KickPlayer } from '../kick/kick-player.js';
import { kickRecordingOf } from '../kick/kick-recording.js';
import { isStereo, LayerPlayer, linkedIn, LIVE_SOURCE } from '../layer/layer-player.js';
import { KICK_DELAY, Mix, type Stems } from '../mix/mix.js';
import type { Assets, Stereo } from '../base/recording.js';
import { SideChain } from '../mix/side-chain.js';
import { layerStructure } from '../tones/tone-set.js';

/** Layers that play back their own render of the loop, by id; see `FrozenLayer`. */
export type Frozen = ReadonlyMap<string, Stereo>;

/** What an instrument is made for. */
export interface InstrumentOptions { readonly sampleRateHz: number; readonly seed: number; readonly assets: Assets; readonly stems: Stems; readonly frozen: Frozen }

/** Seed of one pass of a sound. */
export function seedOf(document: SoundDocument, pass: number): number {
  return (document.seed ^ Math.imul(pass, 0x85ebca6b)) >>> 0;
}

/** Everything of a document whose change means building the instrument anew; numbers that can move while it sounds are left out. */
export function structureOf(document: SoundDocument): string {
  return JSON.stringify([
    document.layers.map((layer) => [
      layer.id, layer.role, isStereo(document, layer), layerStructure(layer, linkedIn(document, layer)),
    ]),
    document.movers.map((mover) => [mover.id, mover.kind]),
    document.grit.cleanPath.on, document.grit.clip.on, kickStructure(document.kick), duckStructure(document), document.backing.map(({ id, on, asset }) => [id, on, asset]), document.seed, document.feedback.on, document.feedback.way,
  ]);
}

/** Whether ducking listens to a signal. */
export function followsLevel({ duck }: SoundDocument): boolean {
  return duck.on && duck.by === 'level' && !duck.hard;
}

/** What of a kick needs another recording. */
function kickStructure({ source, wav, made, shared }: SoundDocument['kick']): unknown {
  return source === 'wav' ? [source, shared, wav && [wav.asset, wav.startMs, wav.endMs, wav.fadeMs, wav.retuneSt]] : [source, made.click === 'sample' ? made.clickWav?.asset : null];
}

/** What of the ducking needs another way through the mix; hard ducking holds for as long as the kick is loud. */
function duckStructure({ duck, kick }: SoundDocument): unknown {
  return duck.on ? [duck.hard, duck.hard ? [kick.made, kick.source] : null, duck.acts, duck.by, duck.from] : null;
}

/** A document as a running instrument: layers, kick and mix, one control step at a time. */
export class Instrument {
  readonly structure: string;
  readonly layers: readonly LayerPlayer[];
  /** What the mix takes of each layer: the layer itself, or its render where it is frozen. */
  private readonly blocks: readonly (LayerPlayer | FrozenLayer)[];
  readonly kick: KickPlayer;
  readonly backing: readonly BackingPlayer[];
  /** What ducking follows; null where it goes by beats, or is off. */
  readonly side: SideChain | null;
  readonly mix: Mix;

  constructor(document: SoundDocument, { sampleRateHz, seed, assets, stems, frozen }: InstrumentOptions) {
    this.structure = structureOf(document);
    const mixed = seedOf(document, seed);
    this.layers = document.layers.map((layer) => new LayerPlayer(document, layer, { sampleRateHz, seed: mixed, assets }));
    this.blocks = this.layers.map((player, l) => {
      const audio = frozen.get(player.id);
      return audio ? new FrozenLayer(player, audio, sampleRateHz, document.layers[l].on) : player;
    });
    const recording = kickRecordingOf(document, assets, sampleRateHz);
    this.kick = new KickPlayer(document.kick, recording, sampleRateHz, document.seed, KICK_DELAY);
    const recordings = backingRecordings(document, assets, sampleRateHz);
    this.backing = document.backing.map(({ gainDb }, i) => new BackingPlayer(recordings[i], gainDb, sampleRateHz, KICK_DELAY));
    this.side = followsLevel(document) ? new SideChain(document, recording, recordings, sampleRateHz) : null;
    this.mix = new Mix(document, this.layers.some((layer) => layer.stereo), this.kick.stereo, sampleRateHz, mixed, stems, hardHoldMs(document, sampleRateHz, assets));
  }

  /** Takes other numbers for a document of the same structure. */
  set(document: SoundDocument): void {
    this.layers.forEach((player, i) => { player.set(document, document.layers[i]); });
    this.blocks.forEach((block, i) => { if (block instanceof FrozenLayer) block.set(document.layers[i].on); });
    this.kick.set(document.kick);
    this.backing.forEach((player, i) => { player.set(document.backing[i].gainDb); });
    this.side?.set(document);
    this.mix.set(document);
  }

  /** Goes on from where another instrument stands; layers are matched by id. */
  copyFrom(other: Instrument): void {
    this.layers.forEach((player, l) => {
      const at = other.layers.findIndex((candidate) => candidate.id === player.id);
      if (at < 0) return;
      player.copyFrom(other.layers[at]);
      const block = this.blocks[l];
      const before = other.blocks[at];
      if (block instanceof FrozenLayer && before instanceof FrozenLayer) block.copyFrom(before);
      // From here on the line is played back, and not by the layer itself.
      else if (block instanceof FrozenLayer) player.releaseSources(0, LIVE_SOURCE);
    });
    this.kick.copyFrom(other.kick);
    for (let b = 0; b < this.backing.length && b < other.backing.length; b++) this.backing[b].copyFrom(other.backing[b]);
    if (other.side) this.side?.copyFrom(other.side);
    this.mix.copyFrom(other.mix);
  }

  noteOn(source: number, pitch: number, velocity: number, tie: boolean): void {
    for (let l = 0; l < this.layers.length; l++) if (source >= LIVE_SOURCE || this.plays(l)) this.layers[l].noteOn(source, pitch, velocity, tie);
    this.mix.noteOn(tie);
  }

  /** Whether a layer plays the line itself. */
  private plays(layer: number): boolean {
    return this.blocks[layer] === this.layers[layer];
  }

  /** Begins the notes of the line that sound at a place in the layers that were frozen in `other` and are no longer. */
  takeUp(events: EventList, place: number, other: Instrument): void {
    const sounding = sourcesAt(events, place);
    this.layers.forEach((player, l) => {
      const before = other.layers.findIndex((candidate) => candidate.id === player.id);
      if (before < 0 || other.plays(before) || !this.plays(l)) return;
      for (let i = 0; i < events.frame.length; i++) {
        if (events.type[i] !== NOTE_ON || !sounding.has(events.source[i])) continue;
        if (events.to[i] === FOR_ALL || player.carries === (events.to[i] === FOR_CARRIERS)) player.noteOn(events.source[i], events.pitch[i], events.velocity[i], false);
      }
    });
  }

  noteOff(source: number): void {
    for (let l = 0; l < this.layers.length; l++) this.layers[l].noteOff(source);
    this.mix.noteOff();
  }

  /** Ends every note of the line that is held. */
  releaseLine(): void {
    for (let l = 0; l < this.layers.length; l++) this.layers[l].releaseSources(0, LIVE_SOURCE);
    this.mix.noteOff();
  }

  event(events: EventList, index: number): void {
    const type = events.type[index];
    const to = events.to[index];
    if (type === NOTE_ON && to === FOR_ALL) this.noteOn(events.source[index], events.pitch[index], events.velocity[index], events.tie[index] === 1);
    else if (type === NOTE_OFF && to === FOR_ALL) this.noteOff(events.source[index]);
    else if (type === NOTE_ON || type === NOTE_OFF) {
      for (let l = 0; l < this.layers.length; l++) {
        const layer = this.layers[l];
        if (layer.carries !== (to === FOR_CARRIERS) || !this.plays(l)) continue;
        if (type === NOTE_ON) layer.noteOn(events.source[index], events.pitch[index], events.velocity[index], events.tie[index] === 1);
        else layer.noteOff(events.source[index]);
      }
    } else if (type === CARRY) for (let l = 0; l < this.layers.length; l++) this.layers[l].carryKick(events.pitch[index]);
    else if (type === RESTART) for (let l = 0; l < this.layers.length; l++) this.layers[l].restart();
    else if (type === KICK) this.kick.hit(events.velocity[index]);
    else if (type === BACKING) this.backing[events.source[index]].begin();
    else if (type === DUCK) {
      this.side?.begin(events.velocity[index]);
      this.mix.beginDuck();
    }
  }

  /** Lets kick and backing parts fade. */
  stop(): void {
    this.kick.stop();
    for (const part of this.backing) part.leave();
    this.side?.stop();
  }

  /** Renders the next `frames` (at most `BLOCK`) samples into the mix's blocks, those of the loop from `place` on; `NOWHERE` where the line does not run. */
  render(frames: number, place: number): void {
    for (let l = 0; l < this.blocks.length; l++) this.blocks[l].render(frames, place);
    this.kick.render(frames);
    for (let b = 0; b < this.backing.length; b++) this.backing[b].render(frames);
    this.side?.render(frames);
    this.mix.process(this.blocks, this.kick, this.backing, this.side, frames);
  }
}

/** Frames until the next event or the next mark of the grid, whichever comes first; marks stand every `BLOCK`. */
export function framesToGo(place: number, nextEvent: number, clock: number): number {
  const grid = BLOCK - (clock % BLOCK);
  const event = nextEvent - place;
  return event < grid ? event : grid;
}
