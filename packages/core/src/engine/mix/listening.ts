import { MOST_BACKING, type SoundDocument } from '../../document/index.js';
import { BY_KICK, BY_PART, moverKindOf } from '../../kinds/movers/index.js';
import { dbToGain } from '../../units/index.js';
import { BackingPlayer, backingRecordings } from '../backing/backing-player.js';
import { BLOCK, STEP } from '../base/chunk.js';
import type { Assets } from '../base/recording.js';
import { kickRecordingOf } from '../kick/kick-recording.js';
import { KickPlayer } from '../kick/kick-player.js';
import { LISTENED, type Heard } from '../movers/heard.js';

/** A part strikes where its peak comes this far above what it was of late, in dB. */
const STRIKES_DB = 6;
/** Time constant by which what it was of late is forgotten, and the shortest time between two strikes. */
const FORGETS_S = 0.06;
const APART_S = 0.04;
/** Softer than this nothing strikes. */
const SOFTEST = 0.01;

/** What the movers of a document that are linked listen to: the kick (`kick`), backing parts by their ids. */
export function listensTo({ movers, links, backing, kick }: SoundDocument): string[] {
  const heard = movers.flatMap((mover) => {
    const name = moverKindOf(mover.kind).hears?.(mover) ?? null;
    return name !== null && links.some((link) => link.mover === mover.id) ? [name] : [];
  });
  return [...new Set(heard)].filter((name) =>
    name === 'kick' ? kick.on : backing.some(({ id, on }) => id === name && on),
  );
}

/**
 * What movers hear of the kick and the backing parts: the peak of each control step at the level at which they
 * are heard, and where a part strikes. A part strikes where its peak rises well above its own envelope of late
 * (onsets from the amplitude envelope, Bello et al., A tutorial on onset detection in music signals, 2005).
 */
export class Listening implements Heard {
  readonly levels = new Float64Array((BLOCK / STEP) * LISTENED);
  readonly strikes = new Uint8Array((BLOCK / STEP) * LISTENED);
  private readonly kick: KickPlayer | null;
  private readonly kickGain = new Float64Array(1);
  private readonly parts: readonly (BackingPlayer | null)[];
  /** Of each part: its envelope of late, frames since it struck. */
  private readonly late = new Float64Array(MOST_BACKING);
  private readonly since = new Float64Array(MOST_BACKING).fill(1e9);

  constructor(
    document: SoundDocument,
    private readonly sampleRateHz: number,
    assets: Assets,
  ) {
    const names = listensTo(document);
    this.kick = names.includes('kick')
      ? new KickPlayer(
          document.kick,
          kickRecordingOf(document, assets, sampleRateHz),
          sampleRateHz,
          document.seed,
          0,
        )
      : null;
    const recordings = backingRecordings(document, assets, sampleRateHz);
    this.parts = document.backing.map(({ id, gainDb }, i) =>
      names.includes(id) ? new BackingPlayer(recordings[i], gainDb, sampleRateHz, 0) : null,
    );
    this.set(document);
  }

  set({ kick, backing }: SoundDocument): void {
    this.kick?.set(kick);
    this.kickGain[0] = dbToGain(kick.levelDb + (kick.source === 'wav' && kick.wav ? kick.wav.gainDb : 0));
    this.parts.forEach((part, i) => part?.set(backing[i].gainDb));
  }

  copyFrom(other: Listening): void {
    if (other.kick) this.kick?.copyFrom(other.kick);
    this.parts.forEach((part, i) => {
      const before = other.parts.at(i);
      if (before) part?.copyFrom(before);
    });
    this.late.set(other.late);
    this.since.set(other.since);
  }

  hit(velocity: number): void {
    this.kick?.hit(velocity);
  }

  begin(part: number, from = 0): void {
    this.parts[part]?.begin(from);
  }

  stop(): void {
    this.kick?.stop();
    for (const part of this.parts) part?.leave();
  }

  /** Listens to the next `frames` (at most `BLOCK`). */
  render(frames: number): void {
    const { kick, parts } = this;
    if (kick) {
      kick.render(frames);
      this.peaks(BY_KICK, kick.left, kick.right, kick.silent, frames, this.kickGain);
    }
    for (let p = 0; p < parts.length; p++) {
      const part = parts[p];
      if (!part) continue;
      part.render(frames);
      this.peaks(BY_PART + p, part.left, part.right, part.silent, frames, ONE);
      this.find(p, frames);
    }
  }

  private peaks(
    by: number,
    left: Float64Array,
    right: Float64Array,
    silent: boolean,
    frames: number,
    gain: Float64Array,
  ): void {
    const { levels } = this;
    for (let from = 0, step = 0; from < frames; from += STEP, step++) {
      const at = step * LISTENED + by;
      levels[at] = 0;
      if (silent) continue;
      const to = from + STEP < frames ? from + STEP : frames;
      for (let i = from; i < to; i++) {
        const l = left[i] < 0 ? -left[i] : left[i];
        const r = right[i] < 0 ? -right[i] : right[i];
        const peak = l > r ? l : r;
        if (peak > levels[at]) levels[at] = peak;
      }
      levels[at] *= gain[0];
    }
  }

  private find(part: number, frames: number): void {
    const { levels, strikes, late, since } = this;
    const forget = Math.exp(-STEP / (FORGETS_S * this.sampleRateHz));
    const rise = dbToGain(STRIKES_DB);
    for (let step = 0; step * STEP < frames; step++) {
      const at = step * LISTENED + BY_PART + part;
      const level = levels[at];
      since[part] += STEP;
      const struck =
        level > SOFTEST && level > rise * late[part] && since[part] > APART_S * this.sampleRateHz;
      strikes[at] = struck ? 1 : 0;
      if (struck) since[part] = 0;
      late[part] = level > late[part] ? level : level + (late[part] - level) * forget;
    }
  }
}

const ONE = Float64Array.of(1);
