import type { SoundDocument } from '../../document/index.js';
import { dbToGain } from '../../units/index.js';
import { BackingPlayer, backingRecordings } from '../backing/backing-player.js';
import type { Assets } from '../base/recording.js';
import { KickPlayer } from '../kick/kick-player.js';
import { kickRecordingOf } from '../kick/kick-recording.js';

/** What names the kick where a mover or a unit says to whom it listens. */
export const KICK_SIDE = 'kick';

/**
 * The kick and the backing parts played a second time for those that listen to them: what is heard of them waits until
 * the bass has come through its units.
 */
export class EarlyPlayers {
  /** Null where nobody listens to it. */
  readonly kick: KickPlayer | null;
  /** The level at which the kick is heard, which its player does not set. */
  readonly kickGain = new Float64Array(1);
  /** By the places of the parts; null for those nobody listens to. */
  readonly parts: readonly (BackingPlayer | null)[];

  /** @param names who is listened to: `KICK_SIDE`, parts by their ids; those that the document does not have are left out. */
  constructor(document: SoundDocument, names: readonly string[], sampleRateHz: number, assets: Assets) {
    const { kick, backing, seed } = document;
    this.kick = names.includes(KICK_SIDE)
      ? new KickPlayer(kick, kickRecordingOf(document, assets, sampleRateHz), sampleRateHz, seed, 0)
      : null;
    const heard = backing.some(({ id }) => names.includes(id));
    const recordings = heard ? backingRecordings(document, assets, sampleRateHz) : [];
    this.parts = backing.map(({ id, gainDb }, i) =>
      names.includes(id) ? new BackingPlayer(recordings[i], gainDb, sampleRateHz, 0) : null,
    );
    this.set(document);
  }

  set({ kick, backing }: SoundDocument): void {
    this.kick?.set(kick);
    this.kickGain[0] = dbToGain(kick.levelDb + (kick.source === 'wav' && kick.wav ? kick.wav.gainDb : 0));
    this.parts.forEach((part, i) => part?.set(backing[i].gainDb));
  }

  copyFrom(other: EarlyPlayers): void {
    if (other.kick) this.kick?.copyFrom(other.kick);
    this.parts.forEach((part, i) => {
      const before = other.parts.at(i);
      if (before) part?.copyFrom(before);
    });
  }

  hit(velocity: number): void {
    this.kick?.hit(velocity);
  }

  /** A backing part begins, by its place; while one document gives way to another it may have no such part. */
  begin(part: number, from = 0): void {
    this.parts.at(part)?.begin(from);
  }

  stop(): void {
    this.kick?.stop();
    for (const part of this.parts) part?.leave();
  }
}
