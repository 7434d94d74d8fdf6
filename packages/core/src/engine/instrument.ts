import type { SoundDocument } from '../document/index.js';
import { BLOCK } from './chunk.js';
import { KICK, NOTE_OFF, NOTE_ON, type EventList } from './events.js';
import { KickPlayer } from './kick-player.js';
import { isStereo, LayerPlayer, linkedIn, LIVE_SOURCE } from './layer-player.js';
import { KICK_DELAY, Mix } from './mix.js';
import { atEngineRate, type Assets, type Recording } from './recording.js';
import { layerStructure } from './tones/tone-set.js';

/** What an instrument is made for. */
export interface InstrumentOptions { readonly sampleRateHz: number; readonly seed: number; readonly assets: Assets; readonly stems: boolean }

/** The kick's recording at the engine's rate; null where the kick is none, or its recording is not there. */
export function recordingOf(document: SoundDocument, assets: Assets, sampleRateHz: number): Recording | null {
  const found = document.kick.source === 'wav' && document.kick.wav ? assets.get(document.kick.wav.asset) : undefined;
  return found ? atEngineRate(found, sampleRateHz) : null;
}

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
    document.grit.cleanPath.on, document.grit.clip.on, document.kick.source, document.kick.wav?.asset ?? null, document.seed, document.feedback.on, document.feedback.way,
  ]);
}

/** A document as a running instrument: layers, kick and mix, one control step at a time. */
export class Instrument {
  readonly structure: string;
  readonly layers: readonly LayerPlayer[];
  readonly kick: KickPlayer;
  readonly mix: Mix;

  constructor(document: SoundDocument, { sampleRateHz, seed, assets, stems }: InstrumentOptions) {
    this.structure = structureOf(document);
    const mixed = seedOf(document, seed);
    this.layers = document.layers.map((layer) => new LayerPlayer(document, layer, { sampleRateHz, seed: mixed, assets }));
    this.kick = new KickPlayer(document.kick, recordingOf(document, assets, sampleRateHz), sampleRateHz, document.seed, KICK_DELAY);
    this.mix = new Mix(document, this.layers.some((layer) => layer.stereo), this.kick.stereo, sampleRateHz, mixed, stems);
  }

  /** Takes other numbers for a document of the same structure. */
  set(document: SoundDocument): void {
    this.layers.forEach((player, i) => { player.set(document, document.layers[i]); });
    this.kick.set(document.kick);
    this.mix.set(document);
  }

  /** Goes on from where another instrument stands; layers are matched by id. */
  copyFrom(other: Instrument): void {
    for (const player of this.layers) {
      const same = other.layers.find((candidate) => candidate.id === player.id);
      if (same) player.copyFrom(same);
    }
    this.kick.copyFrom(other.kick);
    this.mix.copyFrom(other.mix);
  }

  noteOn(source: number, pitch: number, velocity: number, tie: boolean): void {
    for (let l = 0; l < this.layers.length; l++) this.layers[l].noteOn(source, pitch, velocity, tie);
    this.mix.noteOn(tie);
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
    if (type === NOTE_ON) this.noteOn(events.source[index], events.pitch[index], events.velocity[index], events.tie[index] === 1);
    else if (type === NOTE_OFF) this.noteOff(events.source[index]);
    else if (type === KICK) {
      this.kick.hit(events.velocity[index]);
      this.mix.hit();
    }
  }

  /** Renders the next `frames` (at most `BLOCK`) samples into the mix's blocks. */
  render(frames: number): void {
    for (let l = 0; l < this.layers.length; l++) this.layers[l].render(frames);
    this.kick.render(frames);
    this.mix.process(this.layers, this.kick, frames);
  }
}

/** Frames until the next event or the next mark of the grid, whichever comes first; marks stand every `BLOCK`. */
export function framesToGo(place: number, nextEvent: number, clock: number): number {
  const grid = BLOCK - (clock % BLOCK);
  const event = nextEvent - place;
  return event < grid ? event : grid;
}
