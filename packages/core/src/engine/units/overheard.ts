import { BLOCK } from '../../dsp/index.js';
import type { SoundDocument } from '../../document/index.js';
import { unitKindOf, type GritUnit } from '../../kinds/units/index.js';
import { dbToGain } from '../../units/index.js';
import { BackingPlayer, backingRecordings } from '../backing/backing-player.js';
import type { Assets } from '../base/recording.js';
import { KickPlayer } from '../kick/kick-player.js';
import { kickRecordingOf } from '../kick/kick-recording.js';

/** What names the kick where a unit says to whom it listens. */
const KICK_SIDE = 'kick';

/** The names of what those units that are on listen to beside what goes through them. */
export const heardByUnits = (units: readonly GritUnit[]): string[] => [
  ...new Set(units.flatMap((unit) => (unit.on ? (unitKindOf(unit.kind).hears?.(unit) ?? []) : []))),
];

/**
 * What units listen to beside the bass: the kick and the backing parts at the level at which they are heard, in mono.
 * They are played a second time here, for those that are heard wait until the bass has come through its units.
 */
export class Overheard {
  private readonly kick: KickPlayer | null;
  private readonly kickGain = new Float64Array(1);
  /** By the places of the parts; null for those nobody listens to. */
  private readonly parts: readonly (BackingPlayer | null)[];
  private readonly blocks = new Map<string, Float64Array>();
  private readonly kickBlock = new Float64Array(BLOCK);
  private readonly partBlocks: readonly Float64Array[];

  /** @param names who is listened to; those that the document does not have are left out. */
  constructor(document: SoundDocument, names: readonly string[], sampleRateHz: number, assets: Assets) {
    const { kick, backing, seed } = document;
    this.kick = names.includes(KICK_SIDE)
      ? new KickPlayer(kick, kickRecordingOf(document, assets, sampleRateHz), sampleRateHz, seed, 0)
      : null;
    if (this.kick) this.blocks.set(KICK_SIDE, this.kickBlock);
    const heard = backing.some(({ id }) => names.includes(id));
    const recordings = heard ? backingRecordings(document, assets, sampleRateHz) : [];
    this.parts = backing.map(({ id, gainDb }, i) =>
      names.includes(id) ? new BackingPlayer(recordings[i], gainDb, sampleRateHz, 0) : null,
    );
    this.partBlocks = this.parts.map((part) => new Float64Array(part ? BLOCK : 0));
    this.parts.forEach((part, i) => {
      if (part) this.blocks.set(backing[i].id, this.partBlocks[i]);
    });
    this.set(document);
  }

  set({ kick, backing }: SoundDocument): void {
    this.kick?.set(kick);
    this.kickGain[0] = dbToGain(kick.levelDb + (kick.source === 'wav' && kick.wav ? kick.wav.gainDb : 0));
    this.parts.forEach((part, i) => part?.set(backing[i].gainDb));
  }

  copyFrom(other: Overheard): void {
    if (other.kick) this.kick?.copyFrom(other.kick);
    this.parts.forEach((part, i) => {
      const before = other.parts.at(i);
      if (before) part?.copyFrom(before);
    });
  }

  /** The block of one that is listened to; null for anybody else. */
  block(name: string): Float64Array | null {
    return this.blocks.get(name) ?? null;
  }

  hit(velocity: number): void {
    this.kick?.hit(velocity);
  }

  /** A backing part begins, by its place; while one document gives way to another it may have no such part. */
  begin(part: number): void {
    this.parts.at(part)?.begin();
  }

  stop(): void {
    this.kick?.stop();
    for (const part of this.parts) part?.leave();
  }

  /** Plays the next `frames` (at most `BLOCK`) into the blocks. */
  render(frames: number): void {
    const { kick, kickBlock, kickGain, parts, partBlocks } = this;
    if (kick) {
      kick.render(frames);
      mono(kick.left, kick.right, kick.silent, kickGain, kickBlock, frames);
    }
    for (let p = 0; p < parts.length; p++) {
      const part = parts[p];
      if (!part) continue;
      part.render(frames);
      mono(part.left, part.right, part.silent, UNITY, partBlocks[p], frames);
    }
  }
}

const UNITY = Float64Array.of(1);

function mono(
  left: Float64Array,
  right: Float64Array,
  silent: boolean,
  gain: Float64Array,
  to: Float64Array,
  frames: number,
): void {
  const half = 0.5 * gain[0];
  if (silent) for (let i = 0; i < frames; i++) to[i] = 0;
  else for (let i = 0; i < frames; i++) to[i] = half * (left[i] + right[i]);
}
