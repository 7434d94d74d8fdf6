import type { Duck } from '../document/index.js';
import { bent } from '../dsp/index.js';

const LONG_AGO = 1e9;

/** Ducking of the bass by the kick's beats: a drawn curve in dB that starts anew with each hit. */
export class Ducker {
  /** Milliseconds since the last hit; reduction (0 to 1 of the depth) when it came. */
  private readonly state = Float64Array.of(LONG_AGO, 0);
  /** Share of the depth in force at the end of the last step, 0 to 1. */
  readonly share = new Float64Array(1);

  constructor(private duck: Duck, private readonly sampleRateHz: number) {}

  set(duck: Duck): void {
    this.duck = duck;
  }

  copyFrom(other: Ducker): void {
    this.state.set(other.state);
    this.share.set(other.share);
  }

  hit(): void {
    this.state[1] = this.shareNow();
    this.state[0] = 0;
  }

  /** Share of the depth in force now. */
  private shareNow(): number {
    const { attackMs, holdMs, returnMs, bend } = this.duck;
    const ms = this.state[0];
    if (ms < attackMs) return this.state[1] + (1 - this.state[1]) * (ms / attackMs);
    const back = (ms - attackMs - holdMs) / returnMs;
    return back <= 0 ? 1 : back >= 1 ? 0 : 1 - bent(back, bend);
  }

  /** Moves on by `frames`. */
  step(frames: number): void {
    this.state[0] = Math.min(LONG_AGO, this.state[0] + (frames * 1000) / this.sampleRateHz);
    this.share[0] = this.duck.on ? this.shareNow() : 0;
  }
}

/** The ducking curve over a time in ms since a hit, in dB, for drawing. */
export function duckCurveDb(duck: Duck, ms: number): number {
  if (ms < duck.attackMs) return (-duck.amountDb * ms) / duck.attackMs;
  const back = (ms - duck.attackMs - duck.holdMs) / duck.returnMs;
  return -duck.amountDb * (back <= 0 ? 1 : back >= 1 ? 0 : 1 - bent(back, duck.bend));
}
