import { ROOT_NOTE, TONES, type Layer } from '../../document/index.js';
import { bendInPlace, BLOCK, SegmentEnvelope } from '../../dsp/index.js';
import { dbToGain } from '../../units/index.js';
import { FeedbackLoop } from './feedback.js';
import type { LayerLayout } from './layer-layout.js';
import { FILTER, LayerFilter } from '../../kinds/filters/index.js';
import { CycleTone } from '../tones/cycle-tone.js';
import { interplayDelay, Interplay, actingTones } from '../tones/interplay.js';
import {
  NOTE_HZ,
  NOTE_LATE_S,
  NOTE_NUMBERS,
  NOTE_PHASE,
  NOTE_PITCH,
  NOTE_TARGET_HZ,
  NOTE_VELOCITY,
  TONE,
  type ToneContext,
  type ToneGenerator,
} from '../tones/tone.js';
import { makeTone, toneEngine } from '../tones/tone-set.js';

const { cents: CENTS, fixedHz: FIXED_HZ, levelDb: TONE_LEVEL, panPct: TONE_PAN } = TONE;
const { cutoffHz: CUTOFF } = FILTER;

/** Natural logarithm of the ratio of a semitone. */
const SEMITONE = Math.LN2 / 12;

/** Time in which a voice that gives way to another fades, in seconds. */
const YIELD_S = 0.004;
/** Time in which a note that ends at once, or at the end of its cycle, fades. */
const END_S = 0.002;
/** A cycle longer than this is not waited for, in seconds. */
const LONGEST_WAIT_S = 0.25;
/** The note at which keyboard following leaves the cutoff as written: F1. */
const FOLLOW_FROM = ROOT_NOTE;
/** What rings on below this is silent. */
const RUNG_OUT = 1e-3;
/** All of the feedback's amount. */
const WHOLE = Float64Array.of(1);
/**
 * Gains of the layer on the two sides at the start and the end of the step; places in the array that a voice
 * is given.
 */
export const SIDE_LEFT_0 = 0;
export const SIDE_LEFT_1 = 1;
export const SIDE_RIGHT_0 = 2;
export const SIDE_RIGHT_1 = 3;

/**
 * What a voice is asked to play: the pitch, the velocity, and the pitch from which it glides; places in a
 * `Float64Array`.
 */
export const ASKED_PITCH = 0;
export const ASKED_VELOCITY = 1;
export const ASKED_FROM = 2;
export const ASKED_NUMBERS = 3;

// Places in the state.
const PITCH = 0;
const PITCH_TO = 1;
const PITCH_STEP = 2;
const DROP_MS = 3;
const TOUCH = 4;
const FADE = 5;
const FADE_STEP = 6;
const GAIN = 7;
const TOUCH_OCTAVES = 8;
/** Progress in the drop, and the bend after it. */
const PROGRESS = 9;
/**
 * Cycles of the first tone that is on at which a note ends that is to end with one; below 0 none is waited
 * for.
 */
const ENDS_AT = 12;
/** Level of what does not ring on once the note has ended. */
const PLAIN = 13;
const RELEASED_AT = 14;
/** Share of a tone that is added now. */
const SHARE = 15;

/** What the voices of a layer share; `drop` is the kick's, see `carriedDrop`. */
export interface VoiceContext extends ToneContext {
  readonly layout: LayerLayout;
  readonly stereo: boolean;
  readonly linked: (field: string) => boolean;
  readonly chosen: readonly Int32Array[];
  readonly drop: Float64Array;
  /** The numbers of the right side, where they differ from those that a voice is given. */
  readonly right: Float64Array;
  /** How far each filter is there, 0 to 1, from the second place on. */
  readonly on: Float64Array;
}

/** One note of a layer: tones and what they do to each other, feedback, filters, loudness, drop and glide. */
export class Voice {
  private readonly state = new Float64Array(16);
  private readonly sources: readonly (ToneGenerator | null)[];
  private readonly interplay: Interplay | null;
  /**
   * Per tone: seconds by which it comes late, frequency now (a place of its own each), gains of the two sides
   * at the end and the start of the step.
   */
  private readonly late: Float64Array;
  private readonly pitches: readonly Float64Array[] = [
    new Float64Array(1),
    new Float64Array(1),
    new Float64Array(1),
  ];
  private readonly targets = new Float64Array(TONES);
  /** Phase at which each tone began, and its cycles since then. */
  private readonly began = new Float64Array(TONES);
  private readonly cycles = new Float64Array(TONES);
  private readonly lastPitch = new Float64Array(TONES).fill(NaN);
  private readonly sides = new Float64Array(2 * TONES);
  private readonly sidesBefore = new Float64Array(2 * TONES);
  private readonly note = new Float64Array(NOTE_NUMBERS);
  private readonly filters: readonly (readonly [LayerFilter, LayerFilter] | null)[];
  private readonly feedback: FeedbackLoop | null;
  private readonly cutoff = new Float64Array(1);
  private readonly envelope: SegmentEnvelope;
  private readonly toneLeft = new Float64Array(BLOCK);
  private readonly toneRight = new Float64Array(BLOCK);
  /** What goes to the second filter, and what goes past both, where tones go ways of their own. */
  private readonly secondLeft = new Float64Array(BLOCK);
  private readonly secondRight = new Float64Array(BLOCK);
  private readonly past = new Float64Array(BLOCK);
  private readonly pastLeft = new Float64Array(BLOCK);
  private readonly pastRight = new Float64Array(BLOCK);
  /** Whether one tone goes straight into the filters as it is. */
  private readonly alone: number;
  /** The first tone that is on; −1 where none is. */
  private readonly leading: number;
  /** Milliseconds of the kick's drop that have passed, and 1; 0 where none is carried. */
  private readonly carried = new Float64Array(1);
  private a4Hz: number;

  constructor(
    private layer: Layer,
    private readonly context: VoiceContext,
  ) {
    const { sampleRateHz } = context;
    this.a4Hz = context.a4Hz;
    this.sources = layer.tones.map((tone, t) =>
      tone.on
        ? makeTone(
            tone,
            { ...context, stream: context.stream + 2 * t },
            context.linked(`tones.${t}.source.harmonics.stretchPct`),
            context.chosen[t],
          )
        : null,
    );
    const acting = actingTones(layer);
    this.interplay = acting.some(Boolean) ? new Interplay(layer, this.sources, sampleRateHz) : null;
    this.late = Float64Array.from(
      layer.tones,
      (tone, t) =>
        (acting[t] ? interplayDelay(layer) : toneEngine(tone.source.kind).lateFrames) / sampleRateHz,
    );
    this.filters = layer.filters.map((filter) =>
      filter.on
        ? ([new LayerFilter(filter, sampleRateHz), new LayerFilter(filter, sampleRateHz)] as const)
        : null,
    );
    this.feedback = layer.feedback.on ? new FeedbackLoop(layer.feedback.way, sampleRateHz) : null;
    this.envelope = new SegmentEnvelope(layer.loudness, sampleRateHz);
    const on = layer.tones.flatMap((tone, t) => (tone.on ? [t] : []));
    this.leading = on.length > 0 ? on[0] : -1;
    this.alone = on.length === 1 && !this.interplay && layer.route !== 'by tone' ? on[0] : -1;
  }

  set(layer: Layer, a4Hz: number): void {
    this.layer = layer;
    this.envelope.setTimes(layer.loudness);
    for (let t = 0; t < TONES; t++)
      this.sources[t]?.set(layer.tones[t], { ...this.context, a4Hz, stream: this.context.stream + 2 * t });
    this.lastPitch.fill(NaN);
    this.a4Hz = a4Hz;
  }

  copyFrom(other: Voice): void {
    this.state.set(other.state);
    this.carried.set(other.carried);
    for (let t = 0; t < TONES; t++) {
      const source = other.sources[t];
      if (source && this.sources[t]) this.sources[t]!.copyFrom(source);
      this.pitches[t].set(other.pitches[t]);
    }
    this.targets.set(other.targets);
    this.began.set(other.began);
    this.cycles.set(other.cycles);
    this.lastPitch.set(other.lastPitch);
    this.note.set(other.note);
    this.a4Hz = other.a4Hz;
    this.sides.set(other.sides);
    if (other.interplay) this.interplay?.copyFrom(other.interplay);
    this.filters.forEach((pair, f) => {
      const same = other.filters[f];
      if (!pair || !same) return;
      pair[0].copyFrom(same[0]);
      pair[1].copyFrom(same[1]);
    });
    if (other.feedback) this.feedback?.copyFrom(other.feedback);
    else this.feedback?.comeIn();
    this.envelope.copyFrom(other.envelope);
  }

  /** Makes one table that its tones may soon want; says whether there was one. */
  prefetch(): boolean {
    return this.sources.some((source) => source instanceof CycleTone && source.prefetch());
  }

  get active(): boolean {
    return this.envelope.active && this.state[FADE] > 0;
  }

  /** Whether it sounds a held note, so that a tie can go on from it. */
  get held(): boolean {
    return this.active && this.state[RELEASED_AT] === 0 && this.state[FADE_STEP] === 0;
  }

  /** The pitch it stands at, in semitones as MIDI numbers, before the transposition of its tones. */
  get pitch(): number {
    return this.state[PITCH];
  }

  /** The pitch that it stands at or glides to. */
  get pitchTo(): number {
    return this.state[PITCH_TO];
  }

  /** Frequency of a tone at the end of the last step, in hertz. */
  hzOf(tone: number): number {
    return this.pitches[tone][0];
  }

  /** Level that it sounds at, for choosing which voice to take from. */
  get level(): number {
    return this.state[GAIN];
  }

  /**
   * Starts the note that is asked for at `phases` cycles of each tone (its own start phase, turn and chance),
   * gliding where it comes from another pitch.
   */
  start(asked: Float64Array, phases: Float64Array, values: Float64Array): void {
    const { state, note, sources, pitches, targets } = this;
    state.fill(0);
    this.carried[0] = 0;
    state[PITCH] = asked[ASKED_FROM];
    this.glideTo(asked);
    state[FADE] = 1;
    state[ENDS_AT] = -1;
    state[PLAIN] = 1;
    this.touch(asked);
    for (let f = 0; f < this.filters.length; f++) {
      const pair = this.filters[f];
      if (!pair) continue;
      pair[0].reset();
      pair[1].reset();
    }
    this.feedback?.reset();
    this.envelope.reset();
    this.envelope.start();
    this.tune(values);
    this.began.set(phases);
    this.cycles.fill(0);
    const filtersLate = this.filtersLateS(values);
    for (let t = 0; t < TONES; t++) {
      const source = sources[t];
      const base = this.context.layout.tones[t];
      if (!source) continue;
      note[NOTE_PITCH] = asked[ASKED_PITCH];
      this.findTarget(t, values, base);
      note[NOTE_PHASE] = phases[t];
      note[NOTE_HZ] = pitches[t][0];
      note[NOTE_TARGET_HZ] = targets[t];
      note[NOTE_VELOCITY] = asked[ASKED_VELOCITY];
      note[NOTE_LATE_S] = this.late[t] + filtersLate;
      source.start(note, values, base);
      this.takeSides(t, values, base);
    }
    this.interplay?.start(targets);
  }

  /** Seconds by which the filters let what goes through them come late as they stand now. */
  private filtersLateS(values: Float64Array): number {
    let late = 0;
    for (let f = 0; f < this.filters.length; f++) {
      const frames = this.filters[f]
        ? this.filters[f]![0].lateFrames(values, this.context.layout.filters[f])
        : 0;
      late = this.layer.route === 'series' ? late + frames : Math.max(late, frames);
    }
    return late / this.context.sampleRateHz;
  }

  /**
   * Finds the cycles by which each tone would have to turn to stand at `phases`, the shorter way round (−½ to
   * ½; 0 for one without a phase, or with one below 0), into `turns`. Gives the lowest tone
   * that would turn, −1 for none.
   */
  turnsTo(phases: Float64Array, turns: Float64Array): number {
    let lowest = -1;
    for (let t = 0; t < TONES; t++) {
      turns[t] = 0;
      const source = this.sources[t];
      if (!source || !source.hasPhase || phases[t] < 0) continue;
      const gap = phases[t] - this.began[t] - this.cycles[t];
      turns[t] = gap - Math.round(gap);
      if (lowest < 0 || this.pitches[t][0] < this.pitches[lowest][0]) lowest = t;
    }
    return lowest;
  }

  /**
   * Sets the phase of each tone to `phases` less a share of its turn, and leaves all else as it is; a tone
   * with a phase below 0 keeps its own.
   */
  rephase(phases: Float64Array, turns: Float64Array, share: number, values: Float64Array): void {
    const { sources, note, pitches, began, cycles } = this;
    const filtersLate = this.filtersLateS(values);
    for (let t = 0; t < TONES; t++) {
      const source = sources[t];
      if (!source || phases[t] < 0) continue;
      const phase = phases[t] - share * turns[t];
      began[t] = phase - Math.floor(phase);
      cycles[t] = 0;
      note[NOTE_PHASE] = began[t];
      note[NOTE_HZ] = note[NOTE_TARGET_HZ] = pitches[t][0];
      note[NOTE_LATE_S] = this.late[t] + filtersLate;
      source.rephase(note, values, this.context.layout.tones[t]);
    }
  }

  /** Goes to another pitch without starting anew. */
  glideTo(asked: Float64Array): void {
    const { state, layer } = this;
    state[PITCH_TO] = asked[ASKED_PITCH];
    if (state[PITCH] === state[PITCH_TO]) {
      state[PITCH_STEP] = 0;
      return;
    }
    const way = state[PITCH_TO] - state[PITCH];
    const octaves = layer.voice.glideIn === 'octave' ? (way < 0 ? -way : way) / 12 : 1;
    const frames = (layer.voice.glideMs / 1000) * octaves * this.context.sampleRateHz;
    state[PITCH_STEP] = frames < 1 ? 0 : way / frames;
    if (frames < 1) state[PITCH] = state[PITCH_TO];
  }

  /** Takes up the kick's drop from so many ms on, whatever was left of one before. */
  carryKick(fromMs: number): void {
    this.carried[0] = 1 + fromMs;
  }

  /** Takes the velocity that is asked for. */
  touch(asked: Float64Array): void {
    const { state, layer } = this;
    const { voice } = layer;
    if (voice.velocityPct === 0 && voice.velocityFilterOct === 0) {
      state[TOUCH] = 1;
      state[TOUCH_OCTAVES] = 0;
      return;
    }
    state[PROGRESS] = asked[ASKED_VELOCITY] / 127;
    state[PROGRESS + 1] = voice.velocityBend;
    bendInPlace(state, PROGRESS);
    state[TOUCH] = 1 - (voice.velocityPct / 100) * (1 - state[PROGRESS]);
    state[TOUCH_OCTAVES] = voice.velocityFilterOct * state[PROGRESS];
  }

  /** Ends the note as the layer says: with the release, at once, or at the end of its first tone's cycle. */
  release(): void {
    const { state, layer } = this;
    if (state[RELEASED_AT] === 1) return;
    state[RELEASED_AT] = 1;
    if (layer.voice.end === 'at once') this.fadeWithin(END_S);
    else if (layer.voice.end === 'cycle') {
      // A cycle that takes too long, or that no tone has, is not waited for.
      const hz = this.leading < 0 ? 0 : this.pitches[this.leading][0];
      const gone = this.leading < 0 ? 0 : this.cycles[this.leading];
      const rest = Math.ceil(gone + 1e-9) - gone;
      if (hz * LONGEST_WAIT_S < rest) this.fadeWithin(END_S);
      else state[ENDS_AT] = gone + rest;
    } else {
      for (let t = 0; t < TONES; t++) this.sources[t]?.release();
      if (this.rungOut()) this.envelope.release();
    }
  }

  /** Whether nothing rings on any more that would be heard. */
  private rungOut(): boolean {
    for (let t = 0; t < TONES; t++) {
      const source = this.sources[t];
      if (source && source.ringing >= RUNG_OUT) return false;
    }
    return true;
  }

  private fadeWithin(seconds: number): void {
    if (this.state[FADE_STEP] === 0) this.state[FADE_STEP] = -1 / (seconds * this.context.sampleRateHz);
  }

  /** Fades within a few milliseconds, for another voice begins. */
  giveWay(): void {
    this.fadeWithin(YIELD_S);
  }

  /** Finds the frequencies of the tones at the present pitch. */
  private tune(values: Float64Array): void {
    const { state, layer, lastPitch, context } = this;
    const { drop } = layer;
    let pitch = state[PITCH];
    state[PROGRESS] = state[DROP_MS] / drop.timeMs;
    if (drop.semitones !== 0 && state[PROGRESS] < 1) {
      state[PROGRESS + 1] = drop.bend;
      bendInPlace(state, PROGRESS);
      pitch += drop.semitones * (1 - state[PROGRESS]);
    }
    if (this.carried[0] > 0) {
      const curve = context.drop;
      const ms = this.carried[0] - 1;
      const k = ms | 0;
      if (k + 1 < curve[0]) pitch += curve[k + 1] + (ms - k) * (curve[k + 2] - curve[k + 1]);
      else this.carried[0] = 0;
    }
    const highest = context.sampleRateHz * 0.45;
    for (let t = 0; t < TONES; t++) {
      const base = context.layout.tones[t];
      if (base < 0) continue;
      const tone = layer.tones[t];
      if (tone.pitchIn === 'hertz') {
        this.pitches[t][0] = values[base + FIXED_HZ];
        continue;
      }
      const at = pitch + 12 * tone.octave + tone.semitones + values[base + CENTS] / 100;
      if (at === lastPitch[t]) continue;
      lastPitch[t] = at;
      // The formula of `noteToHz`, written out: its result would go on the heap. At every control step of a moved
      // pitch a natural exponential is half the time of a power.
      const hz = this.a4Hz * Math.exp((at - 69) * SEMITONE);
      this.pitches[t][0] = hz < highest ? hz : highest;
    }
  }

  private findTarget(t: number, values: Float64Array, base: number): void {
    const tone = this.layer.tones[t];
    this.targets[t] =
      tone.pitchIn === 'hertz'
        ? values[base + FIXED_HZ]
        : this.a4Hz *
          Math.pow(
            2,
            (this.note[NOTE_PITCH] + 12 * tone.octave + tone.semitones + values[base + CENTS] / 100 - 69) /
              12,
          );
  }

  /** Gains of a tone on the two sides at the start and the end of the step. */
  private takeSides(t: number, values: Float64Array, base: number): void {
    this.sidesBefore[2 * t] = this.sides[2 * t];
    this.sidesBefore[2 * t + 1] = this.sides[2 * t + 1];
    const level =
      values[base + TONE_LEVEL] <= -60
        ? 0
        : values[base + TONE_LEVEL] === 0
          ? 1
          : dbToGain(values[base + TONE_LEVEL]);
    const pan = values[base + TONE_PAN] / 100;
    this.sides[2 * t] = level * (1 - pan);
    this.sides[2 * t + 1] = level * (1 + pan);
  }

  /**
   * Writes the samples from `start` up to `end` to both sides, or to the left one alone where the layer has
   * no two. The layer's own gains in `gains` run evenly through
   * the step.
   */
  write(
    left: Float64Array,
    right: Float64Array,
    start: number,
    end: number,
    values: Float64Array,
    gains: Float64Array,
  ): void {
    const { state, context } = this;
    const { stereo } = context;
    const frames = end - start;
    this.advancePitch(frames);
    state[DROP_MS] += (frames * 1000) / context.sampleRateHz;
    if (this.carried[0] > 0) this.carried[0] += (frames * 1000) / context.sampleRateHz;
    this.tune(values);
    this.followCycles(frames);
    this.writeTones(left, right, start, end, values);
    this.feedback?.process(left, right, start, end, values, context.layout.feedback, WHOLE, stereo);
    this.filter(left, right, start, end, values);
    this.endRinging(frames);
    if (state[FADE_STEP] !== 0) state[FADE] = Math.max(0, state[FADE] + frames * state[FADE_STEP]);
    this.envelope.step(frames);
    const from = state[GAIN];
    const to = this.envelope.level * state[TOUCH] * state[FADE];
    state[GAIN] = to;
    let gain = from * gains[SIDE_LEFT_0];
    let step = (to * gains[SIDE_LEFT_1] - gain) / frames;
    for (let i = start; i < end; i++) {
      gain += step;
      left[i] *= gain;
    }
    if (!stereo) return;
    gain = from * gains[SIDE_RIGHT_0];
    step = (to * gains[SIDE_RIGHT_1] - gain) / frames;
    for (let i = start; i < end; i++) {
      gain += step;
      right[i] *= gain;
    }
  }

  /** Counts the cycles of the tones, and ends a note that is to end with one. */
  private followCycles(frames: number): void {
    const { state, cycles } = this;
    for (let t = 0; t < TONES; t++)
      if (this.sources[t]) cycles[t] += (this.pitches[t][0] * frames) / this.context.sampleRateHz;
    if (state[ENDS_AT] >= 0 && cycles[this.leading] >= state[ENDS_AT]) this.fadeWithin(END_S);
  }

  /** While a tone rings on the others fall by the release's own time; once it is out the note ends. */
  private endRinging(frames: number): void {
    const { state } = this;
    if (state[RELEASED_AT] === 0 || this.layer.voice.end !== 'release' || this.envelope.releasing) return;
    const plain =
      state[PLAIN] - frames / ((this.layer.loudness.releaseMs / 1000) * this.context.sampleRateHz);
    state[PLAIN] = plain > 0 ? plain : 0;
    if (this.rungOut()) this.envelope.release();
  }

  private writeTones(
    left: Float64Array,
    right: Float64Array,
    start: number,
    end: number,
    values: Float64Array,
  ): void {
    const { sources, sides, sidesBefore: before, context, alone } = this;
    const { stereo, layout } = context;
    if (alone >= 0) {
      const base = layout.tones[alone];
      sources[alone]!.process(left, right, start, end, this.pitches[alone], values, base, stereo);
      this.takeSides(alone, values, base);
      this.ramp(left, start, end, 2 * alone);
      if (stereo) this.ramp(right, start, end, 2 * alone + 1);
      return;
    }
    for (let i = start; i < end; i++) left[i] = 0;
    if (stereo) for (let i = start; i < end; i++) right[i] = 0;
    const byTone = this.layer.route === 'by tone';
    if (byTone) this.clearWays(start, end, stereo);
    this.interplay?.process(end - start, this.pitches, values, layout.tones, layout.acts, start);
    for (let t = 0; t < TONES; t++) {
      const source = sources[t];
      if (!source) continue;
      this.takeSides(t, values, layout.tones[t]);
      let fromLeft: Float64Array = this.toneLeft;
      let fromRight: Float64Array = this.toneRight;
      if (this.interplay?.has(t)) fromLeft = fromRight = this.interplay.outputs[t];
      else source.process(fromLeft, fromRight, start, end, this.pitches[t], values, layout.tones[t], stereo);
      if (before[2 * t] === 0 && before[2 * t + 1] === 0 && sides[2 * t] === 0 && sides[2 * t + 1] === 0)
        continue;
      this.state[SHARE] = this.state[RELEASED_AT] === 1 && source.ringing === 0 ? this.state[PLAIN] : 1;
      const { to } = this.layer.tones[t];
      if (!byTone || to === '1' || to === 'both') this.add(fromLeft, fromRight, left, right, start, end, t);
      if (byTone && (to === '2' || to === 'both'))
        this.add(fromLeft, fromRight, this.secondLeft, this.secondRight, start, end, t);
      if (byTone && to === 'past')
        this.add(fromLeft, fromRight, this.pastLeft, this.pastRight, start, end, t);
    }
  }

  /** Multiplies by a tone's gain on one side. */
  private ramp(samples: Float64Array, start: number, end: number, place: number): void {
    let gain = this.sidesBefore[place];
    const to = this.sides[place];
    if (gain === 1 && to === 1) return;
    const step = (to - gain) / (end - start);
    for (let i = start; i < end; i++) {
      gain += step;
      samples[i] *= gain;
    }
  }

  private clearWays(start: number, end: number, stereo: boolean): void {
    for (let i = start; i < end; i++) this.secondLeft[i] = this.pastLeft[i] = 0;
    if (stereo) for (let i = start; i < end; i++) this.secondRight[i] = this.pastRight[i] = 0;
  }

  private add(
    fromLeft: Float64Array,
    fromRight: Float64Array,
    left: Float64Array,
    right: Float64Array,
    start: number,
    end: number,
    t: number,
  ): void {
    const { sides, sidesBefore } = this;
    const plain = this.state[SHARE];
    let gain = sidesBefore[2 * t] * plain;
    let step = (sides[2 * t] * plain - gain) / (end - start);
    for (let i = start; i < end; i++) {
      gain += step;
      left[i] += gain * fromLeft[i];
    }
    if (!this.context.stereo) return;
    gain = sidesBefore[2 * t + 1] * plain;
    step = (sides[2 * t + 1] * plain - gain) / (end - start);
    for (let i = start; i < end; i++) {
      gain += step;
      right[i] += gain * fromRight[i];
    }
  }

  private filter(
    left: Float64Array,
    right: Float64Array,
    start: number,
    end: number,
    values: Float64Array,
  ): void {
    const { filters, layer } = this;
    const { stereo } = this.context;
    const first = filters[0];
    const second = filters[1];
    if (layer.route === 'series') {
      if (first) this.runFilter(0, left, right, start, end, values);
      if (second) this.runFilter(1, left, right, start, end, values);
      return;
    }
    const { secondLeft, secondRight, pastLeft, pastRight } = this;
    const byTone = layer.route === 'by tone';
    if (!byTone) {
      for (let i = start; i < end; i++) secondLeft[i] = left[i];
      if (stereo) for (let i = start; i < end; i++) secondRight[i] = right[i];
    }
    if (first) this.runFilter(0, left, right, start, end, values);
    if (second) this.runFilter(1, secondLeft, secondRight, start, end, values);
    if (!byTone && !second) return;
    if (!byTone && !first) {
      for (let i = start; i < end; i++) left[i] = secondLeft[i];
      if (stereo) for (let i = start; i < end; i++) right[i] = secondRight[i];
      return;
    }
    for (let i = start; i < end; i++) left[i] += secondLeft[i];
    if (stereo) for (let i = start; i < end; i++) right[i] += secondRight[i];
    if (!byTone) return;
    for (let i = start; i < end; i++) left[i] += pastLeft[i];
    if (stereo) for (let i = start; i < end; i++) right[i] += pastRight[i];
  }

  private runFilter(
    f: number,
    left: Float64Array,
    right: Float64Array,
    start: number,
    end: number,
    values: Float64Array,
  ): void {
    const { state, cutoff, context } = this;
    const at = context.layout.filters[f];
    const follow = this.layer.filters[f].followPct;
    const octaves =
      state[TOUCH_OCTAVES] + (follow === 0 ? 0 : ((state[PITCH] - FOLLOW_FROM) * follow) / 1200);
    const ratio = octaves === 0 ? 1 : Math.pow(2, octaves);
    const pair = this.filters[f]!;
    cutoff[0] = ratio * values[at + CUTOFF] > 10 ? ratio * values[at + CUTOFF] : 10;
    this.runSide(pair[0], f, left, start, end, values);
    if (!context.stereo) return;
    const { right: numbers } = context;
    cutoff[0] = ratio * numbers[at + CUTOFF] > 10 ? ratio * numbers[at + CUTOFF] : 10;
    this.runSide(pair[1], f, right, start, end, numbers);
  }

  /** One side of a filter, as far as it is there. */
  private runSide(
    filter: LayerFilter,
    f: number,
    samples: Float64Array,
    start: number,
    end: number,
    numbers: Float64Array,
  ): void {
    const { context, cutoff, past } = this;
    const there = context.on[1 + f];
    const at = context.layout.filters[f];
    if (there === 1) {
      filter.process(samples, start, end, cutoff, numbers, at);
      return;
    }
    for (let i = start; i < end; i++) past[i] = samples[i];
    filter.process(samples, start, end, cutoff, numbers, at);
    for (let i = start; i < end; i++) samples[i] = past[i] + there * (samples[i] - past[i]);
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
