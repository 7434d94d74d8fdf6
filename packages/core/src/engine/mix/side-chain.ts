import { BLOCK } from '../../dsp/index.js';
import type { SoundDocument } from '../../document/index.js';
import { dbToGain } from '../../units/index.js';
import { BackingPlayer } from '../backing/backing-player.js';
import { KickPlayer } from '../kick/kick-player.js';
import type { Recording } from '../base/recording.js';

/** Whether ducking listens to a signal. */
export function followsLevel({ duck }: SoundDocument): boolean {
  return duck.on && duck.by === 'level' && !duck.hard;
}

/**
 * What ducking by level follows: the kick or a backing part, at the level at which it is heard, and ahead of
 * itself by the look-ahead, since it is
 * begun by events of its own. It comes as late as the bass does where it is ducked.
 */
export class SideChain {
  readonly left = new Float64Array(BLOCK);
  readonly right = new Float64Array(BLOCK);
  silent = true;
  private readonly kick: KickPlayer | null;
  private readonly part: BackingPlayer | null;
  private readonly gain = new Float64Array(1);

  /**
   * `kickRecording` and `recordings` are at the engine's rate; a part's recording stands at its place in
   * `backing`.
   */
  constructor(
    document: SoundDocument,
    kickRecording: Recording | null,
    recordings: readonly (Recording | null)[],
    sampleRateHz: number,
    lateFrames = 0,
  ) {
    const at = document.backing.findIndex(({ id }) => id === document.duck.from);
    this.kick =
      at < 0 ? new KickPlayer(document.kick, kickRecording, sampleRateHz, document.seed, lateFrames) : null;
    this.part =
      at < 0
        ? null
        : new BackingPlayer(recordings[at], document.backing[at].gainDb, sampleRateHz, lateFrames);
    this.set(document);
  }

  set({ kick, backing, duck }: SoundDocument): void {
    this.kick?.set(kick);
    this.gain[0] = dbToGain(kick.levelDb + (kick.source === 'wav' && kick.wav ? kick.wav.gainDb : 0));
    const part = backing.find(({ id }) => id === duck.from);
    if (part) this.part?.set(part.gainDb);
  }

  copyFrom(other: SideChain): void {
    if (other.kick) this.kick?.copyFrom(other.kick);
    if (other.part) this.part?.copyFrom(other.part);
  }

  begin(velocity: number): void {
    this.kick?.hit(velocity);
    this.part?.begin();
  }

  stop(): void {
    this.kick?.stop();
    this.part?.leave();
  }

  render(frames: number): void {
    const { kick, part, left, right } = this;
    if (part) {
      part.render(frames);
      this.silent = part.silent;
      if (part.silent) return;
      for (let i = 0; i < frames; i++) {
        left[i] = part.left[i];
        right[i] = part.right[i];
      }
      return;
    }
    if (!kick) return;
    kick.render(frames);
    this.silent = kick.silent;
    if (kick.silent) return;
    const gain = this.gain[0];
    for (let i = 0; i < frames; i++) {
      left[i] = gain * kick.left[i];
      right[i] = gain * kick.right[i];
    }
  }
}
