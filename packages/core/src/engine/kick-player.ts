import type { Kick } from '../document/index.js';
import { bendInPlace, prewarp, Random, StateVariable, waveBank } from '../dsp/index.js';
import { dbToGain } from '../units/index.js';
import { BLOCK, STEP } from './chunk.js';
import type { Recording } from './recording.js';

/** Time in which a hit that gives way to the next fades, in seconds. */
const YIELD_S = 0.003;

// Places in the state.
const ON = 0;
const PLACE = 1;
const PHASE = 2;
const INCREMENT = 3;
const VELOCITY = 4;
const FADE = 5;
const FADE_STEP = 6;
const BODY = 7;
const CLICK = 8;
const HZ = 9;
/** Progress in the drop or the decay, and the bend after it. */
const PROGRESS = 10;

/** One hit. */
class Hit {
  readonly state = new Float64Array(12);
  private readonly band = new StateVariable('band');
  private readonly random: Random;
  /** Where the noise begins: every hit has the same click. */
  private readonly randomStart: Random;
  private readonly noise = new Float64Array(BLOCK);
  private readonly table: Float32Array;
  /** Warped centre twice, and 1/Q, of the click's band. */
  private readonly section = new Float64Array(3);

  constructor(private readonly sampleRateHz: number, seed: number) {
    this.table = waveBank('sine', sampleRateHz / 2).table(0, 0);
    this.random = new Random(seed, 5);
    this.randomStart = new Random(seed, 5);
  }

  copyFrom(other: Hit): void {
    this.state.set(other.state);
    this.band.copyFrom(other.band);
    this.random.copyFrom(other.random);
  }

  start(velocity: number, delayFrames: number): void {
    this.state.fill(0);
    this.state[PLACE] = -delayFrames;
    this.state[ON] = 1;
    this.state[VELOCITY] = velocity / 127;
    this.state[FADE] = 1;
    this.band.reset();
    this.random.copyFrom(this.randomStart);
  }

  /** Frames of this step that pass before the hit begins. */
  wait(frames: number): number {
    const before = -this.state[PLACE];
    if (before <= 0) return 0;
    const skip = before < frames ? before : frames;
    this.state[PLACE] += skip;
    return skip;
  }

  giveWay(): void {
    if (this.state[ON] === 1 && this.state[FADE_STEP] === 0) this.state[FADE_STEP] = -1 / (YIELD_S * this.sampleRateHz);
  }

  /** Finds the pitch at the present place: from start to tail along a bent line of semitones. */
  private tune(made: Kick['made']): void {
    const { state } = this;
    state[PROGRESS] = (state[PLACE] * 1000) / this.sampleRateHz / made.dropMs;
    state[PROGRESS + 1] = made.dropBend;
    if (state[PROGRESS] >= 1) {
      state[HZ] = made.tailHz;
      return;
    }
    bendInPlace(state, PROGRESS);
    state[HZ] = made.tailHz * Math.pow(made.startHz / made.tailHz, 1 - state[PROGRESS]);
  }

  addMade(made: Kick['made'], left: Float64Array, skip: number, until: number): void {
    const frames = until - skip;
    const { state, noise, sampleRateHz } = this;
    const { table } = this;
    const size = table.length - 1;
    if (state[PLACE] === 0) {
      this.tune(made);
      state[INCREMENT] = state[HZ] / sampleRateHz;
      state[BODY] = state[VELOCITY];
      state[CLICK] = dbToGain(made.clickDb) * state[VELOCITY];
    }
    state[PLACE] += frames;
    const ms = (state[PLACE] * 1000) / sampleRateHz;
    this.tune(made);
    const next = state[HZ] / sampleRateHz;
    const decayed = (ms - made.holdMs) / made.decayMs;
    state[PROGRESS] = decayed < 0 ? 0 : decayed > 1 ? 1 : decayed;
    state[PROGRESS + 1] = made.decayBend;
    bendInPlace(state, PROGRESS);
    const level = 1 - state[PROGRESS];
    state[FADE] = Math.max(0, state[FADE] + frames * state[FADE_STEP]);
    const body = level * state[VELOCITY] * state[FADE];
    const clickLevel = made.clickDb <= -60 ? 0 : Math.max(0, 1 - ms / made.clickMs);
    const click = dbToGain(made.clickDb) * clickLevel * clickLevel * state[VELOCITY] * state[FADE];
    let phase = state[PHASE];
    let increment = state[INCREMENT];
    let gain = state[BODY];
    const incrementStep = (next - increment) / frames;
    const gainStep = (body - gain) / frames;
    for (let i = skip; i < until; i++) {
      gain += gainStep;
      const x = phase * size;
      const k = x | 0;
      left[i] += gain * (table[k] + (x - k) * (table[k + 1] - table[k]));
      increment += incrementStep;
      phase += increment;
      if (phase >= 1) phase -= 1;
    }
    if (state[CLICK] > 0) {
      this.random.fill(noise, frames, 2);
      this.section[0] = this.section[1] = prewarp(made.clickHz, sampleRateHz);
      // Q of a band whose −3 dB points lie the given octaves apart (Bristow-Johnson's cookbook).
      this.section[2] = 2 * Math.sinh((Math.LN2 / 2) * made.clickWidthOct);
      this.band.process(noise, 0, frames, this.section);
      const clickStep = (click - state[CLICK]) / frames;
      let at = state[CLICK];
      for (let i = 0; i < frames; i++) {
        at += clickStep;
        left[skip + i] += at * noise[i];
      }
    }
    state[PHASE] = phase;
    state[INCREMENT] = next;
    state[BODY] = body;
    state[CLICK] = click;
    if ((body === 0 && click === 0) || state[FADE] === 0) state[ON] = 0;
  }

  addRecording(recording: Recording, left: Float64Array, right: Float64Array, stereo: boolean, skip: number, until: number): void {
    const { state } = this;
    const frames = until - skip;
    const first = recording.channels[0];
    const from = state[PLACE];
    const count = Math.min(frames, first.length - from);
    for (let i = 0; i < count; i++) {
      const fade = state[FADE] + i * state[FADE_STEP];
      const gain = fade > 0 ? state[VELOCITY] * fade : 0;
      left[skip + i] += gain * first[from + i];
      if (stereo) right[skip + i] += gain * recording.channels[1][from + i];
    }
    state[FADE] = Math.max(0, state[FADE] + frames * state[FADE_STEP]);
    state[PLACE] = from + frames;
    if (state[PLACE] >= first.length || state[FADE] === 0) state[ON] = 0;
  }
}

/** The kick playing: a made one (sine with a falling pitch, and a band-passed click) or a recording. */
export class KickPlayer {
  readonly left = new Float64Array(BLOCK);
  /** The same block as `left` where the two sides cannot differ. */
  readonly right: Float64Array;
  readonly stereo: boolean;
  /** Whether nothing sounds; the blocks are then not written. */
  silent = true;
  private front: Hit;
  private back: Hit;

  /** Hits sound `delayFrames` after their event, to stay in step with a bass that is late by as much. */
  constructor(private kick: Kick, private readonly recording: Recording | null, sampleRateHz: number, seed: number, private readonly delayFrames: number) {
    this.stereo = kick.source === 'wav' && recording !== null && recording.channels.length > 1;
    this.right = this.stereo ? new Float64Array(BLOCK) : this.left;
    this.front = new Hit(sampleRateHz, seed);
    this.back = new Hit(sampleRateHz, seed);
  }

  set(kick: Kick): void {
    this.kick = kick;
  }

  copyFrom(other: KickPlayer): void {
    this.front.copyFrom(other.front);
    this.back.copyFrom(other.back);
  }

  hit(velocity: number): void {
    const spare = this.back;
    this.front.giveWay();
    this.back = this.front;
    this.front = spare;
    this.front.start(velocity, this.delayFrames);
  }

  /** Lets what sounds fade. */
  stop(): void {
    this.front.giveWay();
    this.back.giveWay();
  }

  render(frames: number): void {
    const { left, right, front, back } = this;
    this.silent = front.state[ON] === 0 && back.state[ON] === 0;
    if (this.silent) return;
    for (let i = 0; i < frames; i++) left[i] = 0;
    if (this.stereo) for (let i = 0; i < frames; i++) right[i] = 0;
    if (back.state[ON] === 1) this.add(back, frames);
    if (front.state[ON] === 1) this.add(front, frames);
  }

  private add(hit: Hit, frames: number): void {
    const skip = hit.wait(frames);
    if (skip === frames) return;
    if (this.kick.source === 'made') {
      for (let from = skip; from < frames; from += STEP) hit.addMade(this.kick.made, this.left, from, from + STEP < frames ? from + STEP : frames);
    } else if (this.recording) hit.addRecording(this.recording, this.left, this.right, this.stereo, skip, frames);
    else hit.state[ON] = 0;
  }
}
