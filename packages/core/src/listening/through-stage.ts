import { PartitionedFilters, PartitionedHistory } from '../dsp/index.js';
import { THROUGH_BLOCK, type Through } from './through.js';

/** How a system is heard: at which level, and with the noise of its room or without. */
export interface ThroughWays {
  readonly level: 'matched' | 'true';
  readonly noise: boolean;
}

/** Longest filter in blocks: 8192 taps. */
const PARTITIONS = 64;
/** Time in which one way of hearing gives way to another, and constants of the system's own limiter, in seconds. */
const FADE_S = 0.01;
const ATTACK_S = 0.015;
const RELEASE_S = 0.2;
/** Nothing is made louder than this at the end; peaks beyond it are turned down as they come. */
const HIGHEST = 0.98;
const LET_GO_S = 0.15;

/** One system under way: what it makes of the history, its limiter, its noise. */
class Way {
  readonly left = new Float32Array(THROUGH_BLOCK);
  readonly right = new Float32Array(THROUGH_BLOCK);
  private readonly filters: PartitionedFilters;
  private readonly middle = new Float64Array(THROUGH_BLOCK);
  private readonly side = new Float64Array(THROUGH_BLOCK);
  /** Mean square of late, the limiter's gain, and where in the noise it is. */
  private readonly state = Float64Array.of(0, 1, 0);
  private readonly attack: number;
  private readonly release: number;

  constructor(
    readonly through: Through,
    readonly ways: ThroughWays,
    sampleRateHz: number,
  ) {
    this.filters = new PartitionedFilters(THROUGH_BLOCK, through.middle, through.side);
    this.attack = 1 - Math.exp(-THROUGH_BLOCK / (ATTACK_S * sampleRateHz));
    this.release = 1 - Math.exp(-THROUGH_BLOCK / (RELEASE_S * sampleRateHz));
  }

  render(history: PartitionedHistory): void {
    const { middle, side, left, right, state, through, ways } = this;
    history.through(this.filters, middle, side);
    let square = 0;
    for (let i = 0; i < THROUGH_BLOCK; i++) {
      const l = middle[i] + side[i];
      const r = middle[i] - side[i];
      square += l * l + r * r;
      left[i] = l;
      right[i] = r;
    }
    square /= 2 * THROUGH_BLOCK;
    state[0] += (square > state[0] ? this.attack : this.release) * (square - state[0]);
    const limited = state[0] > through.mostSquare ? Math.sqrt(through.mostSquare / state[0]) : 1;
    const gain = 10 ** ((ways.level === 'matched' ? through.matchedDb : through.trueDb) / 20);
    const step = (limited - state[1]) / THROUGH_BLOCK;
    const noise = ways.noise ? gain : 0;
    const frames = through.noise.left.length;
    let at = state[2];
    for (let i = 0; i < THROUGH_BLOCK; i++) {
      state[1] += step;
      left[i] = gain * state[1] * left[i] + noise * through.noise.left[at];
      right[i] = gain * state[1] * right[i] + noise * through.noise.right[at];
      if (++at === frames) at = 0;
    }
    state[2] = at;
  }
}

/**
 * Hears sound through a playback system, block by block, without delay: its filters, mono, the limiter that holds its greatest
 * level, the level at which it is heard and the noise of its room. Another one is heard from the next block on, over 10 ms.
 * The block path allocates nothing.
 */
export class ThroughStage {
  private readonly history = new PartitionedHistory(THROUGH_BLOCK, PARTITIONS);
  private readonly middle = new Float64Array(THROUGH_BLOCK);
  private readonly side = new Float64Array(THROUGH_BLOCK);
  private now: Way | null = null;
  private before: Way | null = null;
  /** Share of `now` that is heard, and the greatest peak of late. */
  private readonly state = Float64Array.of(1, 0);
  private readonly fade: number;
  private readonly letGo: number;

  constructor(private readonly sampleRateHz: number) {
    this.fade = 1 / (FADE_S * sampleRateHz);
    this.letGo = Math.exp(-1 / (LET_GO_S * sampleRateHz));
  }

  /** Hears through another system from the next block on; null hears the sound by itself. */
  hear(through: Through | null, ways: ThroughWays): void {
    // One that was still coming in gives way at once: two at a time are enough.
    this.before = this.now;
    this.now = through && new Way(through, ways, this.sampleRateHz);
    this.state[0] = 0;
  }

  /** Puts a block of `THROUGH_BLOCK` frames through, in its place. */
  process(left: Float32Array, right: Float32Array): void {
    const { history, middle, side, state, now, before } = this;
    for (let i = 0; i < THROUGH_BLOCK; i++) {
      middle[i] = 0.5 * (left[i] + right[i]);
      side[i] = 0.5 * (left[i] - right[i]);
    }
    // What went in is kept even while nothing is heard through: a system that is chosen then is in full swing.
    history.push(middle, side);
    const fading = state[0] < 1;
    if (now) now.render(history);
    if (fading && before) before.render(history);
    if (!now && !fading) return;
    for (let i = 0; i < THROUGH_BLOCK; i++) {
      if (state[0] < 1) state[0] = Math.min(1, state[0] + this.fade);
      const share = state[0];
      let l = share * (now ? now.left[i] : left[i]);
      let r = share * (now ? now.right[i] : right[i]);
      if (share < 1) {
        l += (1 - share) * (before ? before.left[i] : left[i]);
        r += (1 - share) * (before ? before.right[i] : right[i]);
      }
      const peak = Math.max(Math.abs(l), Math.abs(r));
      state[1] = Math.max(peak, state[1] * this.letGo);
      const held = state[1] > HIGHEST ? HIGHEST / state[1] : 1;
      left[i] = held * l;
      right[i] = held * r;
    }
    if (state[0] >= 1) this.before = null;
  }
}
