import type { SoundDocument } from '../../document/index.js';
import { BackingPlayer, backingRecordings } from '../backing/backing-player.js';
import type { Assets, Recording } from '../base/recording.js';
import { hardHoldMs } from '../kick/hard-hold.js';
import { isStereoKick, KickPlayer } from '../kick/kick-player.js';
import { kickRecordingOf } from '../kick/kick-recording.js';
import type { LayerPlayer } from '../layer/layer-player.js';
import type { LayerBlock } from '../mix/block.js';
import { Mix, type Stems } from '../mix/mix.js';
import { Listening, listensTo } from '../mix/listening.js';
import type { Heard } from '../movers/heard.js';
import { followsLevel, SideChain } from '../mix/side-chain.js';
import { heardByUnits, Overheard } from '../sides/overheard.js';
import {
  BACKING,
  CARRY,
  DUCK,
  FOR_ALL,
  FOR_CARRIERS,
  KICK,
  NOTE_OFF,
  NOTE_ON,
  RESTART,
  type EventList,
} from './events.js';

/** Seed of one pass of a sound. */
export function seedOf(document: SoundDocument, pass: number): number {
  return (document.seed ^ Math.imul(pass, 0x85ebca6b)) >>> 0;
}

export interface AssemblyOptions {
  readonly sampleRateHz: number;
  /** Of the pass; see `seedOf`. */
  readonly seed: number;
  readonly assets: Assets;
  readonly stems: Stems;
  /** Whether the layers can differ between the sides. */
  readonly stereo: boolean;
  /** What movers hear, where any listens. */
  readonly heard: Heard | null;
  /** Whether all that moves is to be seen. */
  readonly watched?: boolean;
}

/**
 * What stands behind the layers of a sound, live and in a render: the kick, the backing parts, what ducking
 * follows, and the mix that all of them go into.
 */
export class Assembly {
  readonly kickRecording: Recording | null;
  readonly kick: KickPlayer;
  readonly backing: readonly BackingPlayer[];
  /** What ducking follows; null where it goes by beats, or is off. */
  readonly side: SideChain | null;
  readonly mix: Mix;
  /** What units of the mix listen to. */
  private readonly overheard: Overheard;

  constructor(
    document: SoundDocument,
    { sampleRateHz, seed, assets, stems, stereo, heard, watched }: AssemblyOptions,
  ) {
    this.kickRecording = kickRecordingOf(document, assets, sampleRateHz);
    const recordings = backingRecordings(document, assets, sampleRateHz);
    const { cleanPath, bands, after } = document.grit;
    this.overheard = new Overheard(
      document,
      heardByUnits([...cleanPath.units, ...bands.flatMap(({ units }) => units), ...after]),
      sampleRateHz,
      assets,
    );
    this.mix = new Mix(
      document,
      stereo,
      isStereoKick(document.kick, this.kickRecording),
      sampleRateHz,
      seed,
      stems,
      hardHoldMs(document, sampleRateHz, assets),
      { heard, watched, overheard: this.overheard },
    );
    const { frontLate } = this.mix;
    this.side = followsLevel(document)
      ? new SideChain(document, this.kickRecording, recordings, sampleRateHz, frontLate)
      : null;
    this.kick = new KickPlayer(document.kick, this.kickRecording, sampleRateHz, document.seed, frontLate);
    this.backing = document.backing.map(
      ({ gainDb }, i) => new BackingPlayer(recordings[i], gainDb, sampleRateHz, frontLate),
    );
  }

  /** Takes other numbers for a document of the same structure. */
  set(document: SoundDocument): void {
    this.kick.set(document.kick);
    this.backing.forEach((player, i) => {
      player.set(document.backing[i].gainDb);
    });
    this.side?.set(document);
    this.overheard.set(document);
    this.mix.set(document);
  }

  copyFrom(other: Assembly): void {
    this.kick.copyFrom(other.kick);
    for (let b = 0; b < this.backing.length && b < other.backing.length; b++)
      this.backing[b].copyFrom(other.backing[b]);
    if (other.side) this.side?.copyFrom(other.side);
    this.overheard.copyFrom(other.overheard);
    this.mix.copyFrom(other.mix);
  }

  /** Takes an event of the loop; `tellLayer` is for the layers. */
  event(events: EventList, index: number): void {
    switch (events.type[index]) {
      case KICK:
        this.kick.hit(events.velocity[index]);
        this.overheard.hit(events.velocity[index]);
        this.mix.kick(events.source[index]);
        return;
      case BACKING:
        // While it gives way to another it may be given events of parts that it does not have.
        this.backing.at(events.source[index])?.begin();
        this.overheard.begin(events.source[index]);
        return;
      case DUCK:
        this.side?.begin(events.velocity[index]);
        this.mix.beginDuck();
        return;
      // What only the carriers play stands for the kick, and is no note of the line.
      case NOTE_ON:
        if (events.to[index] !== FOR_CARRIERS)
          this.mix.noteOn(
            events.source[index],
            events.pitch[index],
            events.velocity[index],
            events.tie[index] === 1,
            events.accent[index],
            events.rate[index],
            events.number[index],
          );
        return;
      case NOTE_OFF:
        if (events.to[index] !== FOR_CARRIERS) this.mix.noteOff();
        return;
      default:
    }
  }

  /** Lets kick and backing parts fade. */
  stop(): void {
    this.kick.stop();
    this.overheard.stop();
    for (const part of this.backing) part.leave();
    this.side?.stop();
  }

  /** Renders the next `frames` (at most `BLOCK`) samples into the mix's blocks, upon those of the layers. */
  render(layers: readonly LayerBlock[], frames: number, place: number): void {
    if (this.mix.whole) {
      this.kick.render(frames);
      for (let b = 0; b < this.backing.length; b++) this.backing[b].render(frames);
    }
    this.side?.render(frames);
    this.overheard.render(frames);
    this.mix.process(layers, this.kick, this.backing, this.side, frames, place);
  }
}

/** What movers hear of a document, where any listens. */
export function listeningFor(
  document: SoundDocument,
  sampleRateHz: number,
  assets: Assets,
): Listening | null {
  return listensTo(document).length > 0 ? new Listening(document, sampleRateHz, assets) : null;
}

/** Tells what movers hear of an event of the loop. */
export function tellListening(listening: Listening, events: EventList, index: number): void {
  if (events.type[index] === KICK) listening.hit(events.velocity[index]);
  else if (events.type[index] === BACKING) listening.begin(events.source[index]);
}

/** Gives a layer an event of the loop, where it is for it. */
export function tellLayer(player: LayerPlayer, events: EventList, index: number): void {
  const to = events.to[index];
  switch (events.type[index]) {
    case CARRY:
      player.carryKick(events.pitch[index]);
      return;
    case RESTART:
      player.restart();
      return;
    case KICK:
      player.kick(events.source[index], events.velocity[index]);
      return;
    case BACKING:
      player.beginPart(events.source[index]);
      return;
    case NOTE_ON:
      if (isFor(player, to))
        player.noteOn(
          events.source[index],
          events.pitch[index],
          events.velocity[index],
          events.tie[index] === 1,
          events.accent[index],
          events.rate[index],
          events.number[index],
        );
      return;
    case NOTE_OFF:
      if (isFor(player, to)) player.noteOff(events.source[index]);
      return;
    default:
  }
}

/** Whether what goes to some layers only goes to this one. */
export const isFor = ({ carries }: LayerPlayer, to: number) =>
  to === FOR_ALL || carries === (to === FOR_CARRIERS);
