import { bendInPlace } from './curve.js';

/** Times and bends of a loudness or mover envelope; see the parameter table for ranges. */
export interface SegmentTimes {
  readonly delayMs?: number;
  readonly holdMs?: number;
  readonly attackMs: number; readonly attackBend: number;
  readonly decayMs: number; readonly decayBend: number;
  readonly sustainPct: number;
  readonly releaseMs: number; readonly releaseBend: number;
}

const IDLE = 0;
const ATTACK = 1;
const DECAY = 2;
const SUSTAIN = 3;
const RELEASE = 4;
const DELAY = 5;
const HOLD = 6;

// Places in the state.
const STAGE = 0;
const ELAPSED = 1;
const LEVEL = 2;
const FROM = 3;
/** Progress in the segment, and the bend after it. */
const PROGRESS = 4;

/** Delay, attack, hold, decay, sustain and release with bent segments, advanced in steps; exact at the end of each step. */
export class SegmentEnvelope {
  private readonly state = new Float64Array(6);
  private times: SegmentTimes;

  constructor(times: SegmentTimes, private readonly sampleRateHz: number) {
    this.times = times;
  }

  /** Takes other times; a segment under way goes on from the level it has reached. */
  setTimes(times: SegmentTimes): void {
    this.times = times;
  }

  get level(): number {
    return this.state[LEVEL];
  }

  get active(): boolean {
    return this.state[STAGE] !== IDLE;
  }

  get releasing(): boolean {
    return this.state[STAGE] === RELEASE;
  }

  /** Starts from the level reached so far. */
  start(): void {
    this.enter((this.times.delayMs ?? 0) > 0 ? DELAY : ATTACK);
  }

  release(): void {
    if (this.state[STAGE] !== IDLE && this.state[STAGE] !== RELEASE) this.enter(RELEASE);
  }

  reset(): void {
    this.state.fill(0);
  }

  copyFrom(other: SegmentEnvelope): void {
    this.state.set(other.state);
  }

  /** Moves on by `frames`; `level` is then the level there, 0 to 1. */
  step(frames: number): void {
    const { state, times } = this;
    let left = (frames * 1000) / this.sampleRateHz;
    for (;;) {
      const stage = state[STAGE];
      const sustain = times.sustainPct / 100;
      if (stage === IDLE || stage === SUSTAIN) {
        state[LEVEL] = stage === IDLE ? 0 : sustain;
        return;
      }
      const length = this.lengthOf(stage);
      const to = stage === ATTACK || stage === HOLD ? 1 : stage === DECAY ? sustain : stage === DELAY ? state[FROM] : 0;
      const rest = length - state[ELAPSED];
      if (left < rest) {
        state[ELAPSED] += left;
        state[PROGRESS] = state[ELAPSED] / length;
        state[PROGRESS + 1] = stage === ATTACK ? times.attackBend : stage === DECAY ? times.decayBend : stage === RELEASE ? times.releaseBend : 0;
        bendInPlace(state, PROGRESS);
        state[LEVEL] = state[FROM] + (to - state[FROM]) * state[PROGRESS];
        return;
      }
      if (rest > 0) left -= rest;
      state[LEVEL] = to;
      this.enter(stage === DELAY ? ATTACK : stage === ATTACK ? HOLD : stage === HOLD ? DECAY : stage === DECAY ? SUSTAIN : IDLE);
    }
  }

  private lengthOf(stage: number): number {
    const { times } = this;
    switch (stage) {
      case DELAY: return times.delayMs ?? 0;
      case ATTACK: return times.attackMs;
      case HOLD: return times.holdMs ?? 0;
      case DECAY: return times.decayMs;
      default: return times.releaseMs;
    }
  }

  private enter(stage: number): void {
    this.state[STAGE] = stage;
    this.state[ELAPSED] = 0;
    this.state[FROM] = this.state[LEVEL];
  }
}
