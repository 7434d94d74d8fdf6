import { bendInPlace } from './curve.js';

/** Times and bends of a loudness or mover envelope; see the parameter table for ranges. */
export interface SegmentTimes {
  readonly delayMs?: number;
  readonly holdMs?: number;
  readonly attackMs: number;
  readonly attackBend: number;
  readonly decayMs: number;
  readonly decayBend: number;
  readonly sustainPct: number;
  readonly releaseMs: number;
  readonly releaseBend: number;
}

const IDLE = 0;
const ATTACK = 1;
const DECAY = 2;
const SUSTAIN = 3;
const RELEASE = 4;
const DELAY = 5;
const HOLD = 6;
const STAGES = 7;
/** The stage that follows each. */
const NEXT = [IDLE, HOLD, SUSTAIN, SUSTAIN, IDLE, ATTACK, DECAY];
/** What comes after the decay: the level that is held, the end, or the attack again. */
export type AfterDecay = 'sustain' | 'release' | 'again';
const AFTER = { sustain: SUSTAIN, release: RELEASE, again: DELAY } as const;

// Places in the state.
const STAGE = 0;
const ELAPSED = 1;
const LEVEL = 2;
const FROM = 3;
/** Progress in the segment, and the bend after it. */
const PROGRESS = 4;

/**
 * Delay, attack, hold, decay, sustain and release with bent segments, advanced in steps; exact at the end of
 * each step.
 */
export class SegmentEnvelope {
  private readonly state = new Float64Array(6);
  /**
   * Length in ms, bend and end level of each stage. In arrays, since a number that a step takes from
   * elsewhere may be put on the heap.
   */
  private readonly length = new Float64Array(STAGES);
  private readonly bend = new Float64Array(STAGES);
  private readonly to = new Float64Array(STAGES);
  private readonly next = Int32Array.from(NEXT);

  constructor(
    times: SegmentTimes,
    private readonly sampleRateHz: number,
  ) {
    this.setTimes(times);
  }

  /** Takes other times; a segment under way goes on from the level it has reached. */
  setTimes(times: SegmentTimes): void {
    const { length, bend, to } = this;
    length[DELAY] = times.delayMs ?? 0;
    length[ATTACK] = times.attackMs;
    length[HOLD] = times.holdMs ?? 0;
    length[DECAY] = times.decayMs;
    length[RELEASE] = times.releaseMs;
    bend[ATTACK] = times.attackBend;
    bend[DECAY] = times.decayBend;
    bend[RELEASE] = times.releaseBend;
    to[ATTACK] = to[HOLD] = 1;
    to[DECAY] = to[SUSTAIN] = times.sustainPct / 100;
  }

  afterDecay(what: AfterDecay): void {
    this.next[DECAY] = AFTER[what];
  }

  /** Takes its times in ms and its sustain in % from places in `numbers`; a segment under way goes on. */
  tune(
    numbers: Float64Array,
    delay: number,
    attack: number,
    hold: number,
    decay: number,
    sustain: number,
    release: number,
  ): void {
    const { length, to } = this;
    length[DELAY] = numbers[delay];
    length[ATTACK] = numbers[attack];
    length[HOLD] = numbers[hold];
    length[DECAY] = numbers[decay];
    length[RELEASE] = numbers[release];
    to[DECAY] = to[SUSTAIN] = numbers[sustain] / 100;
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
    this.enter(this.length[DELAY] > 0 ? DELAY : ATTACK);
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
    const { state, length, bend, to } = this;
    let left = (frames * 1000) / this.sampleRateHz;
    for (;;) {
      const stage = state[STAGE];
      if (stage === IDLE || stage === SUSTAIN) {
        state[LEVEL] = to[stage];
        return;
      }
      // A delay ends where it began.
      if (stage === DELAY) to[DELAY] = state[FROM];
      const rest = length[stage] - state[ELAPSED];
      if (left < rest) {
        state[ELAPSED] += left;
        state[PROGRESS] = state[ELAPSED] / length[stage];
        state[PROGRESS + 1] = bend[stage];
        bendInPlace(state, PROGRESS);
        state[LEVEL] = state[FROM] + (to[stage] - state[FROM]) * state[PROGRESS];
        return;
      }
      if (rest > 0) left -= rest;
      state[LEVEL] = to[stage];
      this.enter(this.next[stage]);
    }
  }

  private enter(stage: number): void {
    this.state[STAGE] = stage;
    this.state[ELAPSED] = 0;
    this.state[FROM] = this.state[LEVEL];
  }
}
