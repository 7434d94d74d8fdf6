import type { SoundDocument } from '../../document/index.js';
import type { Assets, Stereo } from '../base/recording.js';
import { LayerPlayer, LIVE_SOURCE } from '../layer/layer-player.js';
import type { Stems } from '../mix/mix.js';
import { NO_RATE } from '../../kinds/movers/index.js';
import type { Listening } from '../mix/listening.js';
import { Assembly, isFor, listeningFor, seedOf, tellLayer, tellListening } from './assembly.js';
import { NOTE_OFF, NOTE_ON, sourcesAt, type EventList } from './events.js';
import { FrozenLayer } from './frozen-layer.js';
import { movedTargets, movingIds, watchedIn, watchedInMix, type Watched } from './moved.js';
import { structureOf } from './rebuild-keys.js';
import type { NoteMarks } from '../units/note-marks.js';

/** Layers that play back their own render of the loop, by id; see `FrozenLayer`. */
export type Frozen = ReadonlyMap<string, Stereo>;

/** What an instrument is made for. */
export interface InstrumentOptions {
  readonly sampleRateHz: number;
  readonly seed: number;
  readonly assets: Assets;
  readonly stems: Stems;
  readonly frozen: Frozen;
}

/** A document as a running instrument: layers, kick and mix, one control step at a time. */
export class Instrument {
  readonly structure: string;
  readonly layers: readonly LayerPlayer[];
  /** What the mix takes of each layer: the layer itself, or its render where it is frozen. */
  private readonly blocks: readonly (LayerPlayer | FrozenLayer)[];
  readonly assembly: Assembly;
  readonly listening: Listening | null;
  /** All that is moved and all that moves, in the order of `movedTargets` and `movingIds`; null for what is not there. */
  private watched: readonly (Watched | null)[];

  constructor(document: SoundDocument, { sampleRateHz, seed, assets, stems, frozen }: InstrumentOptions) {
    this.structure = structureOf(document);
    const mixed = seedOf(document, seed);
    this.listening = listeningFor(document, sampleRateHz, assets);
    const heard = this.listening;
    this.layers = document.layers.map(
      (layer) => new LayerPlayer(document, layer, { sampleRateHz, seed: mixed, assets, heard }),
    );
    this.blocks = this.layers.map((player, l) => {
      const audio = frozen.get(player.id);
      return audio ? new FrozenLayer(player, audio, sampleRateHz, document.layers[l].on) : player;
    });
    this.assembly = new Assembly(document, {
      sampleRateHz,
      seed: mixed,
      assets,
      stems,
      stereo: this.layers.some((layer) => layer.stereo),
      heard,
      watched: true,
    });
    this.watched = this.watch(document);
  }

  /** Takes where the notes of the line begin. */
  takeMarks(marks: NoteMarks): void {
    for (const player of this.layers) player.takeMarks(marks);
    this.assembly.mix.takeMarks(marks);
  }

  /** Takes other numbers for a document of the same structure. */
  set(document: SoundDocument): void {
    this.layers.forEach((player, i) => {
      player.set(document, document.layers[i]);
    });
    this.blocks.forEach((block, i) => {
      if (block instanceof FrozenLayer) block.set(document.layers[i].on);
    });
    this.listening?.set(document);
    this.assembly.set(document);
    this.watched = this.watch(document);
  }

  private watch(document: SoundDocument): (Watched | null)[] {
    const found = new Map(
      [
        ...this.layers.flatMap((player) => watchedIn(document, player)),
        ...watchedInMix(document, this.assembly.mix),
      ].map((each) => [each.id, each]),
    );
    return [...movedTargets(document), ...movingIds(document)].map((id) => found.get(id) ?? null);
  }

  /** Writes where all that is watched stands, 0 to 1; NaN for what is not there. Gives how many there are. */
  tellMoved(out: Float32Array): number {
    const { watched } = this;
    const count = watched.length < out.length ? watched.length : out.length;
    for (let w = 0; w < count; w++) {
      const each = watched[w];
      out[w] = each ? each.places[each.slot] : NaN;
    }
    return count;
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
    if (other.listening) this.listening?.copyFrom(other.listening);
    this.assembly.copyFrom(other.assembly);
  }

  noteOn(source: number, pitch: number, velocity: number, tie: boolean): void {
    for (let l = 0; l < this.layers.length; l++)
      if (source >= LIVE_SOURCE || this.plays(l)) this.layers[l].noteOn(source, pitch, velocity, tie);
    this.assembly.mix.noteOn(source, pitch, velocity, tie, 0, NO_RATE, -1);
  }

  /** Whether a layer plays the line itself. */
  private plays(layer: number): boolean {
    return this.blocks[layer] === this.layers[layer];
  }

  /**
   * Begins the notes of the line that sound at a place in the layers that were frozen in `other` and are no
   * longer.
   */
  takeUp(events: EventList, place: number, other: Instrument): void {
    const sounding = sourcesAt(events, place);
    this.layers.forEach((player, l) => {
      const before = other.layers.findIndex((candidate) => candidate.id === player.id);
      if (before < 0 || other.plays(before) || !this.plays(l)) return;
      for (let i = 0; i < events.frame.length; i++) {
        if (events.type[i] !== NOTE_ON || !sounding.has(events.source[i])) continue;
        if (isFor(player, events.to[i]))
          player.noteOn(
            events.source[i],
            events.pitch[i],
            events.velocity[i],
            false,
            events.accent[i],
            events.rate[i],
            events.number[i],
          );
      }
    });
  }

  noteOff(source: number): void {
    for (let l = 0; l < this.layers.length; l++) this.layers[l].noteOff(source);
    this.assembly.mix.noteOff();
  }

  /** Ends every note of the line that is held. */
  releaseLine(): void {
    for (let l = 0; l < this.layers.length; l++) this.layers[l].releaseSources(0, LIVE_SOURCE);
    this.assembly.mix.releaseAll();
  }

  /** Lets kick and backing parts fade, those that are heard and those that only units hear. */
  stop(): void {
    this.assembly.stop();
    for (let l = 0; l < this.layers.length; l++) this.layers[l].stop();
  }

  /** Takes an event of the loop; a layer that is frozen plays no note of the line. */
  event(events: EventList, index: number): void {
    if (this.listening) tellListening(this.listening, events, index);
    const note = events.type[index] === NOTE_ON || events.type[index] === NOTE_OFF;
    for (let l = 0; l < this.layers.length; l++)
      if (!note || this.plays(l)) tellLayer(this.layers[l], events, index);
    this.assembly.event(events, index);
  }

  /**
   * Renders the next `frames` (at most `BLOCK`) samples into the mix's blocks, those of the loop from `place`
   * on; `NOWHERE` where the line does not run.
   */
  render(frames: number, place: number): void {
    this.listening?.render(frames);
    for (let l = 0; l < this.blocks.length; l++) this.blocks[l].render(frames, place);
    this.assembly.render(this.blocks, frames, place);
  }
}
