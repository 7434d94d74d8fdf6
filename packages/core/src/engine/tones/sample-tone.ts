import type { SampleZone, SourceOf, Tone } from '../../document/index.js';
import {
  prepareSpeed,
  Random,
  READ_LOOP_FROM,
  READ_LOOP_TO,
  READ_NUMBERS,
  READ_PLACE,
  READ_SPEED_0,
  READ_SPEED_1,
  readRecording,
} from '../../dsp/index.js';
import type { Assets, Recording } from '../base/recording.js';
import { NOTE_PITCH, NOTE_VELOCITY, TONE, type ToneContext, type ToneGenerator } from './tone.js';
import { noteToHz } from '../../music/index.js';

/** A zone with its recording. */
interface Loaded {
  readonly zone: SampleZone;
  readonly recording: Recording;
  readonly rootHz: number;
}

// Places in the state: frames of the recording that the note has, frames of the fade at its end.
const LAST = 0;
const FADE = 1;

/**
 * Recordings over ranges of notes and velocities. Where several fit a note they come in turn, or at random
 * but never the same one
 * twice running. `chosen` is shared by the voices of a layer: the place of the last one.
 */
export class SampleTone implements ToneGenerator {
  readonly hasPhase = false;
  readonly ringing = 0;
  private zones: Loaded[] = [];
  private source: SourceOf<'sample'>;
  private current: Loaded | null = null;
  private readonly fitting: Int32Array;
  private readonly numbers = new Float64Array(READ_NUMBERS);
  private readonly state = new Float64Array(2);
  private readonly random: Random;
  private readonly sampleRateHz: number;

  constructor(
    tone: Tone,
    context: ToneContext,
    private readonly chosen: Int32Array,
  ) {
    this.source = tone.source as SourceOf<'sample'>;
    this.sampleRateHz = context.sampleRateHz;
    this.fitting = new Int32Array(32);
    this.random = new Random(context.seed, context.stream);
    this.load(context.assets, context.a4Hz);
  }

  private load(assets: Assets, a4Hz: number): void {
    this.zones = this.source.zones.flatMap((zone) => {
      const recording = assets.get(zone.asset);
      return recording ? [{ zone, recording, rootHz: noteToHz(zone.rootPitch, a4Hz) }] : [];
    });
    for (let octave = 0; octave <= 16; octave++) prepareSpeed(2 ** (octave / 4));
  }

  set(tone: Tone, context: ToneContext): void {
    this.source = tone.source as SourceOf<'sample'>;
    const playing = this.current?.zone.asset;
    this.load(context.assets, context.a4Hz);
    this.current = this.zones.find(({ zone }) => zone.asset === playing) ?? null;
  }

  copyFrom(other: ToneGenerator): void {
    if (!(other instanceof SampleTone)) return;
    this.current = this.zones.find(({ zone }) => zone.asset === other.current?.zone.asset) ?? null;
    this.numbers.set(other.numbers);
    this.state.set(other.state);
    this.random.copyFrom(other.random);
    this.chosen.set(other.chosen);
  }

  /** Chooses among the zones that fit a note. */
  private choose(pitch: number, velocity: number): Loaded | null {
    const { zones, fitting, chosen } = this;
    let count = 0;
    for (let i = 0; i < zones.length; i++) {
      const { zone } = zones[i];
      if (
        pitch >= zone.lowPitch &&
        pitch <= zone.highPitch &&
        velocity >= zone.lowVelocity &&
        velocity <= zone.highVelocity
      )
        fitting[count++] = i;
    }
    if (count === 0) return null;
    let at = -1;
    for (let i = 0; i < count; i++) if (fitting[i] === chosen[0]) at = i;
    let next: number;
    if (this.source.order === 'in turn' || count === 1) next = at < 0 ? this.after(count) : (at + 1) % count;
    else if (at < 0) next = Math.floor(this.random.next() * count);
    else next = (at + 1 + Math.floor(this.random.next() * (count - 1))) % count;
    chosen[0] = fitting[next];
    return zones[fitting[next]];
  }

  /** The first fitting zone after the last one chosen. */
  private after(count: number): number {
    for (let i = 0; i < count; i++) if (this.fitting[i] > this.chosen[0]) return i;
    return 0;
  }

  start(note: Float64Array, values: Float64Array, base: number): void {
    const { numbers, state } = this;
    this.current = this.choose(note[NOTE_PITCH], note[NOTE_VELOCITY]);
    if (!this.current) return;
    const { recording, zone } = this.current;
    const length = recording.channels[0].length;
    const from = Math.floor((values[base + TONE.source.sample.startPct] / 100) * length);
    numbers[READ_PLACE] = from;
    numbers[READ_SPEED_0] = -1;
    const loops = this.source.loops && zone.loop !== null && zone.loop.to <= length;
    numbers[READ_LOOP_FROM] = loops ? zone.loop!.from : 0;
    numbers[READ_LOOP_TO] = loops ? zone.loop!.to : 0;
    state[LAST] = loops ? Infinity : from + ((length - from) * this.source.lengthPct) / 100;
    state[FADE] = Math.max(1, (this.source.fadeMs / 1000) * recording.sampleRateHz);
  }

  rephase(): void {
    // A recording goes on: to begin it anew would be another hit.
  }

  release(): void {
    // A recording goes on; the voice lets it fade.
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    pitch: Float64Array,
    _values: Float64Array,
    _base: number,
    stereo: boolean,
  ): void {
    const { numbers, state, current } = this;
    if (!current || numbers[READ_PLACE] >= state[LAST]) {
      for (let i = from; i < to; i++) left[i] = 0;
      if (stereo) for (let i = from; i < to; i++) right[i] = 0;
      return;
    }
    const { recording, rootHz } = current;
    const speed = (pitch[0] / rootHz) * (recording.sampleRateHz / this.sampleRateHz);
    if (numbers[READ_SPEED_0] < 0) numbers[READ_SPEED_0] = speed;
    numbers[READ_SPEED_1] = speed;
    const second = recording.channels.length > 1;
    const begins = numbers[READ_PLACE];
    if (stereo && second) readRecording(recording.channels[1], right, from, to, numbers, false);
    readRecording(recording.channels[0], left, from, to, numbers, true);
    if (stereo && !second) for (let i = from; i < to; i++) right[i] = left[i];
    const grow = (speed - numbers[READ_SPEED_0]) / (to - from);
    let at = begins;
    let go = numbers[READ_SPEED_0];
    if (state[LAST] !== Infinity && at + 2 * speed * (to - from) > state[LAST] - state[FADE]) {
      for (let i = from; i < to; i++) {
        const rest = (state[LAST] - at) / state[FADE];
        const gain = rest >= 1 ? 1 : rest <= 0 ? 0 : rest;
        left[i] *= gain;
        if (stereo) right[i] *= gain;
        go += grow;
        at += go;
      }
    }
    numbers[READ_SPEED_0] = speed;
  }
}
