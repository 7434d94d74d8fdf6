import { BLOCK, STEP } from '../../dsp/index.js';
import { MOST_BACKING, type SoundDocument } from '../../document/index.js';
import { BY_KICK, BY_PART, moverKindOf, starterOf } from '../../kinds/movers/index.js';
import { dbToGain } from '../../units/index.js';
import type { Assets } from '../base/recording.js';
import type { Heard } from '../movers/heard.js';
import { EarlyPlayers } from '../sides/early-players.js';

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

/** The same, by the places of their levels. */
export function listenedOf(document: SoundDocument): Int32Array {
  const parts = document.backing.map(({ id }) => id);
  return Int32Array.from(listensTo(document), (name) => starterOf(parts, name));
}

/**
 * What movers hear of the kick and the backing parts: the peak of each control step at the level at which they
 * are heard, and where a part strikes. A part strikes where its peak rises well above its own envelope of late
 * (onsets from the amplitude envelope, Bello et al., A tutorial on onset detection in music signals, 2005).
 */
export class Listening extends EarlyPlayers implements Heard {
  readonly listened: Int32Array;
  readonly levels: Float64Array;
  readonly strikes: Uint8Array;
  readonly first = new Int32Array(1);
  /** Of each part: its envelope of late, frames since it struck. */
  private readonly late = new Float64Array(MOST_BACKING);
  private readonly since = new Float64Array(MOST_BACKING).fill(1e9);

  constructor(
    document: SoundDocument,
    private readonly sampleRateHz: number,
    assets: Assets,
  ) {
    const names = listensTo(document);
    super(document, names, sampleRateHz, assets);
    this.listened = listenedOf(document);
    this.levels = new Float64Array((BLOCK / STEP) * names.length);
    this.strikes = new Uint8Array(this.levels.length);
  }

  override copyFrom(other: Listening): void {
    super.copyFrom(other);
    this.late.set(other.late);
    this.since.set(other.since);
  }

  /** Listens to the next `frames` (at most `BLOCK`). */
  render(frames: number): void {
    const { kick, parts, listened } = this;
    for (let at = 0; at < listened.length; at++) {
      const part = listened[at] - BY_PART;
      if (listened[at] === BY_KICK) {
        if (!kick) continue;
        kick.render(frames);
        this.peaks(at, kick.left, kick.right, kick.silent, frames, this.kickGain);
        continue;
      }
      const player = parts[part];
      if (!player) continue;
      player.render(frames);
      this.peaks(at, player.left, player.right, player.silent, frames, ONE);
      this.find(at, part, frames);
    }
  }

  private peaks(
    column: number,
    left: Float64Array,
    right: Float64Array,
    silent: boolean,
    frames: number,
    gain: Float64Array,
  ): void {
    const { levels, listened } = this;
    let at = column;
    for (let from = 0; from < frames; from += STEP) {
      levels[at] = 0;
      if (!silent) {
        let peak = 0;
        const to = from + STEP < frames ? from + STEP : frames;
        for (let i = from; i < to; i++) {
          const l = left[i] < 0 ? -left[i] : left[i];
          if (l > peak) peak = l;
          if (right === left) continue;
          const r = right[i] < 0 ? -right[i] : right[i];
          if (r > peak) peak = r;
        }
        levels[at] = peak * gain[0];
      }
      at += listened.length;
    }
  }

  private find(column: number, part: number, frames: number): void {
    const { levels, strikes, late, since, listened } = this;
    const forget = Math.exp(-STEP / (FORGETS_S * this.sampleRateHz));
    const rise = dbToGain(STRIKES_DB);
    let at = column;
    for (let from = 0; from < frames; from += STEP) {
      const level = levels[at];
      since[part] += STEP;
      const struck =
        level > SOFTEST && level > rise * late[part] && since[part] > APART_S * this.sampleRateHz;
      strikes[at] = struck ? 1 : 0;
      if (struck) since[part] = 0;
      late[part] = level > late[part] ? level : level + (late[part] - level) * forget;
      at += listened.length;
    }
  }
}

const ONE = Float64Array.of(1);
