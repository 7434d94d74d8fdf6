import type { Duck } from '../../document/index.js';
import { bent } from '../../dsp/index.js';
import { dbToGain } from '../../units/index.js';

const LONG_AGO = 1e9;
/** Times of hard ducking: how long the lows take to go and to come back. */
const HARD_FALL_MS = 8;
/**
 * Hard ducking is down so long before the kick begins: a low band cannot be told apart from one moment to the
 * next.
 */
const HARD_GUARD_MS = 14;
export const HARD_AHEAD_MS = HARD_FALL_MS + HARD_GUARD_MS;
const HARD_RETURN_MS = 12;
/** Levels below this are none. */
const FLOOR = 1e-5;
const DB = 20 / Math.LN10;

/**
 * Gain for a share of the depth: even in dB (exponential), or even in amplitude (linear); hard ducking goes
 * to nothing along a bend without corners, so that it makes no click.
 */
export function duckGain({ hard, curve, amountDb }: Duck, share: number): number {
  if (hard) return 1 - share * share * (3 - 2 * share);
  return curve === 'linear' ? 1 - share * (1 - dbToGain(-amountDb)) : dbToGain(-amountDb * share);
}

/**
 * What the level of a follower asks to be taken off, in dB: Giannoulis, Massberg and Reiss (2012), eq. 4 with
 * no knee: (x − T)·(1 − 1/R) above the threshold.
 */
export function wantedReductionDb(levelDb: number, thresholdDb: number, ratio: number): number {
  return levelDb > thresholdDb ? (levelDb - thresholdDb) * (1 - 1 / ratio) : 0;
}

/**
 * Ducking of the bass, as a share of its depth: by beats along a drawn curve that starts anew with each hit,
 * or by the level of what is
 * followed, through the feed-forward compressor of Giannoulis, Massberg and Reiss (Digital dynamic range
 * compressor design: a tutorial and analysis,
 * 2012): level in dB, gain computer, then the smooth decoupled peak detector (eq. 17), in that order.
 */
export class Ducker {
  /**
   * Milliseconds since the last hit, share of the depth when it came; then the detector's two states in dB;
   * milliseconds until the hit that was told last.
   */
  private readonly state = Float64Array.of(LONG_AGO, 0, 0, 0, Infinity);
  /** Share of the depth in force at the end of the last step, 0 to 1. */
  readonly share = new Float64Array(1);
  /** Decay of attack and release from one frame to the next. */
  private readonly decay = new Float64Array(2);

  private readonly lateMs: number;

  /**
   * @param hardHoldMs how long hard ducking holds: as long as the kick stands within 20 dB of its peak.
   * @param lateFrames by which a hit comes later than it is told, to stay in step with a bass that is late by as much.
   */
  constructor(
    private duck: Duck,
    private readonly sampleRateHz: number,
    private readonly hardHoldMs = 0,
    lateFrames = 0,
  ) {
    this.lateMs = (1000 * lateFrames) / sampleRateHz;
    this.set(duck);
  }

  set(duck: Duck): void {
    this.duck = duck;
    this.decay[0] = Math.exp(-1000 / (duck.attackMs * this.sampleRateHz));
    this.decay[1] = Math.exp(-1000 / (duck.returnMs * this.sampleRateHz));
  }

  copyFrom(other: Ducker): void {
    this.state.set(other.state);
    this.share.set(other.share);
  }

  hit(): void {
    if (this.byLevel) return;
    // One that is still to come is not waited for any longer.
    if (this.state[4] < Infinity) this.begin(0);
    if (this.lateMs > 0) this.state[4] = this.lateMs;
    else this.begin(0);
  }

  /** The ducking begins anew, so many milliseconds ago. */
  private begin(agoMs: number): void {
    this.state[1] = this.shareNow();
    this.state[0] = agoMs;
    this.state[4] = Infinity;
  }

  /** Whether it listens to a signal, which `follow` is then given. */
  get byLevel(): boolean {
    return this.duck.by === 'level' && !this.duck.hard;
  }

  /** Share of the depth in force now, by beats. */
  private shareNow(): number {
    const { duck } = this;
    const attackMs = duck.hard ? HARD_FALL_MS : duck.attackMs;
    const ms = this.state[0];
    if (ms < attackMs) return this.state[1] + (1 - this.state[1]) * (ms / attackMs);
    const back = duck.hard
      ? (ms - attackMs - HARD_GUARD_MS - this.hardHoldMs) / HARD_RETURN_MS
      : (ms - attackMs - duck.holdMs) / duck.returnMs;
    return back <= 0 ? 1 : back >= 1 ? 0 : 1 - bent(back, duck.hard ? 0 : duck.bend);
  }

  /** Takes in `frames` samples of what is followed. */
  follow(left: Float64Array, right: Float64Array, silent: boolean, frames: number): void {
    const { state, decay, duck } = this;
    const { thresholdDb, ratio } = duck;
    let peak = state[2];
    let smooth = state[3];
    for (let i = 0; i < frames; i++) {
      let x = 0;
      if (!silent) {
        x = left[i] < 0 ? -left[i] : left[i];
        const other = right[i] < 0 ? -right[i] : right[i];
        if (other > x) x = other;
      }
      const over = x > FLOOR ? DB * Math.log(x) - thresholdDb : 0;
      const wanted = over > 0 ? over * (1 - 1 / ratio) : 0;
      const fallen = decay[1] * peak + (1 - decay[1]) * wanted;
      peak = wanted > fallen ? wanted : fallen;
      smooth = decay[0] * smooth + (1 - decay[0]) * peak;
    }
    state[2] = peak < 1e-9 ? 0 : peak;
    state[3] = smooth < 1e-9 ? 0 : smooth;
  }

  /** Moves on by `frames`. */
  step(frames: number): void {
    const { state, share, duck } = this;
    const ms = (frames * 1000) / this.sampleRateHz;
    state[0] = Math.min(LONG_AGO, state[0] + ms);
    state[4] -= ms;
    if (state[4] <= 0) this.begin(-state[4]);
    if (!duck.on) share[0] = 0;
    else if (this.byLevel) share[0] = duck.amountDb > 0 ? Math.min(1, state[3] / duck.amountDb) : 0;
    else share[0] = this.shareNow();
  }
}

/**
 * The ducking by beats over a time in ms since a hit, in dB, for drawing; `hardHoldMs` as the ducker has it.
 */
export function duckCurveDb(duck: Duck, ms: number, hardHoldMs = 0): number {
  const attackMs = duck.hard ? HARD_FALL_MS : duck.attackMs;
  const hold = duck.hard ? HARD_GUARD_MS + hardHoldMs : duck.holdMs;
  const back = (ms - attackMs - hold) / (duck.hard ? HARD_RETURN_MS : duck.returnMs);
  const share =
    ms < attackMs ? ms / attackMs : back <= 0 ? 1 : back >= 1 ? 0 : 1 - bent(back, duck.hard ? 0 : duck.bend);
  return 20 * Math.log10(Math.max(FLOOR, duckGain(duck, share)));
}
