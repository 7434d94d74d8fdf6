import type { Layer } from '../document/index.js';
import { bendInPlace, SegmentEnvelope } from '../dsp/index.js';
import {
  CONTROL_CUTOFF, CONTROL_DETUNE, CONTROL_DRIVE_DB, CONTROL_HZ, CONTROL_LEFT_0, CONTROL_LEFT_1, CONTROL_Q, CONTROL_RIGHT_0, CONTROL_RIGHT_1, CONTROL_SPREAD, CONTROL_WIDTH,
} from './control.js';
import { CENTS, CUTOFF, DETUNE, DRIVE, RESONANCE, SPREAD, WIDTH } from './layer-parameters.js';
import { LayerFilter } from './layer-filter.js';
import { Oscillator } from './oscillator.js';

/** Time in which a voice that gives way to another fades, in seconds. */
const YIELD_S = 0.004;
/** The note at which keyboard following leaves the cutoff as written: F1. */
const FOLLOW_FROM = 29;

// Places in the state.
const PITCH = 0;
const PITCH_TO = 1;
const PITCH_STEP = 2;
const DROP_MS = 3;
const TOUCH = 4;
const FADE = 5;
const FADE_STEP = 6;
const GAIN = 7;
const LAST_PITCH = 8;
const LAST_A4 = 9;
const HZ = 10;
/** Progress in the drop, and the bend after it. */
const PROGRESS = 11;

/** One note of a layer: tone, filter, loudness, drop and glide. Two of them take turns in a layer. */
export class Voice {
  private readonly state = new Float64Array(13);
  private readonly tone: Oscillator;
  private readonly filterLeft: LayerFilter;
  private readonly filterRight: LayerFilter;
  private readonly envelope: SegmentEnvelope;

  constructor(private layer: Layer, private a4Hz: number, private readonly sampleRateHz: number) {
    this.tone = new Oscillator(layer.tone, sampleRateHz);
    this.filterLeft = new LayerFilter(layer.filter, sampleRateHz);
    this.filterRight = new LayerFilter(layer.filter, sampleRateHz);
    this.envelope = new SegmentEnvelope(layer.loudness, sampleRateHz);
  }

  set(layer: Layer, a4Hz: number): void {
    this.layer = layer;
    this.a4Hz = a4Hz;
    this.envelope.setTimes(layer.loudness);
  }

  copyFrom(other: Voice): void {
    this.state.set(other.state);
    this.tone.copyFrom(other.tone);
    this.filterLeft.copyFrom(other.filterLeft);
    this.filterRight.copyFrom(other.filterRight);
    this.envelope.copyFrom(other.envelope);
  }

  get active(): boolean {
    return this.envelope.active && this.state[FADE] > 0;
  }

  /** Whether it sounds a held note, so that a tie can go on from it. */
  get held(): boolean {
    return this.active && !this.envelope.releasing && this.state[FADE_STEP] === 0;
  }

  /** The pitch it stands at, in semitones as MIDI numbers, before the layer's own transposition. */
  get pitch(): number {
    return this.state[PITCH];
  }

  /** Starts a note at `phase` cycles, gliding from `from` where that is another pitch. */
  start(pitch: number, velocity: number, phase: number, from: number, values: Float64Array): void {
    const { state } = this;
    state[PITCH] = from;
    this.glideTo(pitch);
    state[DROP_MS] = 0;
    state[FADE] = 1;
    state[FADE_STEP] = 0;
    state[GAIN] = 0;
    this.touch(velocity);
    this.filterLeft.reset();
    this.filterRight.reset();
    this.envelope.reset();
    this.envelope.start();
    this.tune(values);
    this.tone.start(phase, state[HZ], values[WIDTH] / 100);
  }

  /** Goes to another pitch without starting anew. */
  glideTo(pitch: number): void {
    const { state } = this;
    const frames = (this.layer.voice.glideMs / 1000) * this.sampleRateHz;
    state[PITCH_TO] = pitch;
    state[PITCH_STEP] = frames < 1 ? 0 : (pitch - state[PITCH]) / frames;
    if (frames < 1) state[PITCH] = pitch;
  }

  touch(velocity: number): void {
    this.state[TOUCH] = 1 - (this.layer.voice.velocityPct / 100) * (1 - velocity / 127);
  }

  release(): void {
    this.envelope.release();
  }

  /** Fades within a few milliseconds, for another voice begins. */
  giveWay(): void {
    if (this.state[FADE_STEP] === 0) this.state[FADE_STEP] = -1 / (YIELD_S * this.sampleRateHz);
  }

  /** Finds the frequency of the present pitch. */
  private tune(values: Float64Array): void {
    const { state } = this;
    const { tone, drop } = this.layer;
    let pitch = state[PITCH] + 12 * tone.octave + tone.semitones + values[CENTS] / 100;
    state[PROGRESS] = state[DROP_MS] / drop.timeMs;
    if (drop.semitones > 0 && state[PROGRESS] < 1) {
      state[PROGRESS + 1] = drop.bend;
      bendInPlace(state, PROGRESS);
      pitch += drop.semitones * (1 - state[PROGRESS]);
    }
    if (pitch === state[LAST_PITCH] && this.a4Hz === state[LAST_A4]) return;
    state[LAST_PITCH] = pitch;
    state[LAST_A4] = this.a4Hz;
    // The formula of `noteToHz`, written out: its result would go on the heap.
    const hz = this.a4Hz * Math.pow(2, (pitch - 69) / 12);
    const highest = this.sampleRateHz * 0.45;
    state[HZ] = hz < highest ? hz : highest;
  }

  /**
   * Writes the samples from `start` up to `end` to both sides, or to the left one alone when `stereo` is false. The layer's own gains in
   * `control` run evenly through the step; the rest of `control` is written here.
   */
  write(left: Float64Array, right: Float64Array, start: number, end: number, values: Float64Array, control: Float64Array, stereo: boolean): void {
    const { state, layer } = this;
    const frames = end - start;
    this.advancePitch(frames);
    state[DROP_MS] += (frames * 1000) / this.sampleRateHz;
    this.tune(values);
    control[CONTROL_HZ] = state[HZ];
    control[CONTROL_WIDTH] = values[WIDTH] / 100;
    control[CONTROL_DETUNE] = values[DETUNE];
    control[CONTROL_SPREAD] = values[SPREAD] / 100;
    this.tone.process(left, right, start, end, control, stereo);
    if (layer.filter.on) {
      const follow = layer.filter.followPct === 0 ? 1 : Math.pow(2, ((state[PITCH] - FOLLOW_FROM) * layer.filter.followPct) / 1200);
      const cutoff = values[CUTOFF] * follow;
      control[CONTROL_CUTOFF] = cutoff > 10 ? cutoff : 10;
      control[CONTROL_Q] = values[RESONANCE];
      control[CONTROL_DRIVE_DB] = values[DRIVE];
      this.filterLeft.process(left, start, end, control);
      if (stereo) this.filterRight.process(right, start, end, control);
    }
    if (state[FADE_STEP] !== 0) state[FADE] = Math.max(0, state[FADE] + frames * state[FADE_STEP]);
    this.envelope.step(frames);
    const from = state[GAIN];
    const to = this.envelope.level * state[TOUCH] * state[FADE];
    state[GAIN] = to;
    let gain = from * control[CONTROL_LEFT_0];
    let step = (to * control[CONTROL_LEFT_1] - gain) / frames;
    for (let i = start; i < end; i++) {
      gain += step;
      left[i] *= gain;
    }
    if (!stereo) return;
    gain = from * control[CONTROL_RIGHT_0];
    step = (to * control[CONTROL_RIGHT_1] - gain) / frames;
    for (let i = start; i < end; i++) {
      gain += step;
      right[i] *= gain;
    }
  }

  private advancePitch(frames: number): void {
    const { state } = this;
    if (state[PITCH_STEP] === 0) return;
    const next = state[PITCH] + frames * state[PITCH_STEP];
    const passed = state[PITCH_STEP] > 0 ? next >= state[PITCH_TO] : next <= state[PITCH_TO];
    state[PITCH] = passed ? state[PITCH_TO] : next;
    if (passed) state[PITCH_STEP] = 0;
  }
}
