import {
  LEFT_A,
  LEFT_B,
  MIX,
  MIX_STEP,
  READER_NUMBERS,
  RIGHT_A,
  RIGHT_B,
  SELECT_HZ,
  SELECT_NUMBERS,
  SELECT_POSITION,
  SELECT_SHIFT,
  START_A,
  START_B,
  STEP_A,
  STEP_B,
  SWINGS,
  TURN,
  TableSelector,
  WIDTH,
  WIDTH_STEP,
  addCopies,
  addMixed,
  addPulse,
  addSteered,
  readAt,
  writeAlone,
  writeMixed,
} from '../../dsp/index.js';
import type { Tone } from '../../document/index.js';
import { Copies, copyPhase, copyPlace } from './copies.js';
import {
  NOTE_HZ,
  NOTE_LATE_S,
  NOTE_PHASE,
  NOTE_TARGET_HZ,
  TONE,
  type ToneContext,
  type ToneGenerator,
} from './tone.js';
import { toneBank } from './tone-bank.js';

const {
  spreadPct: SPREAD,
  source: {
    shape: { widthPct: WIDTH_OF_PULSE },
  },
} = TONE;

// Places in the state: increment (cycles a frame) and width at the end of the last step, phase (cycles) where
// the first copy starts.
const INCREMENT = 0;
const LAST_WIDTH = 1;
const START = 2;
/** How fast the greatest displacement found for steering is forgotten, a step of 16 frames at 48 kHz. */
const FORGETS = 0.9995;
/**
 * Highest frequency that a steered tone may reach, as a multiple of the highest its tables hold: what lies
 * above it would fold to below 20 kHz.
 */
const STEERED_ROOM = 2.4;

/**
 * A tone that reads a single cycle: Shape, Harmonics and Frames, of one to twelve copies. With spread the
 * copies stand evenly from left to right by a linear
 * law, so that the sum of both sides does not change with it. A pulse is the difference of two saws, the
 * second later by the
 * width, and so carries no DC.
 */
export class CycleTone implements ToneGenerator {
  readonly ringing = 0;
  readonly hasPhase = true;
  private readonly selector: TableSelector;
  private readonly pulse: boolean;
  /** Places of its position among frames and of its formant shift; −1 where its kind has none. */
  private readonly position: number;
  private readonly shift: number;
  private readonly count: number;
  private readonly copies: Copies;
  /** Phases as whole numbers: 2^32 to the cycle, which wrap by themselves. */
  private readonly phase: Int32Array;
  private readonly state = Float64Array.of(0, 0.5, 0);
  private readonly numbers = new Float64Array(READER_NUMBERS);
  private readonly wanted = new Float64Array(SELECT_NUMBERS);
  private readonly sampleRateHz: number;
  /** Greatest swing of the frequency under steering, in hertz. */
  private readonly swung = new Float64Array(1);
  private readonly place = new Int32Array(1);

  constructor(
    private tone: Tone,
    context: ToneContext,
  ) {
    const { source } = tone;
    this.pulse = source.kind === 'shape' && source.shape === 'pulse';
    this.position =
      source.kind === 'harmonics' || source.kind === 'frames' ? TONE.source[source.kind].positionPct : -1;
    this.shift = source.kind === 'frames' ? TONE.source.frames.formantSt : -1;
    this.sampleRateHz = context.sampleRateHz;
    this.selector = new TableSelector(
      toneBank(source, context.a4Hz, context.assets, context.sampleRateHz),
      context.sampleRateHz,
    );
    this.count = tone.copies;
    this.copies = new Copies(tone.copies, tone.detuneLaw, context.sampleRateHz, context.seed, context.stream);
    this.phase = new Int32Array(tone.copies);
  }

  set(tone: Tone, context: ToneContext): void {
    this.tone = tone;
    this.copies.setLaw(tone.detuneLaw);
    this.selector.setBank(toneBank(tone.source, context.a4Hz, context.assets, context.sampleRateHz));
  }

  copyFrom(other: ToneGenerator): void {
    if (!(other instanceof CycleTone)) return;
    if (other.count === this.count) this.phase.set(other.phase);
    else this.phase.fill(other.phase[0]);
    this.state.set(other.state);
    this.copies.copyFrom(other.copies);
    this.selector.copyFrom(other.selector);
  }

  start(note: Float64Array, values: Float64Array, base: number): void {
    const { state } = this;
    this.rephase(note);
    state[INCREMENT] = note[NOTE_HZ] / this.sampleRateHz;
    state[LAST_WIDTH] = this.widthOf(values, base);
    this.swung[0] = 0;
    this.selector.reset();
  }

  rephase(note: Float64Array): void {
    this.state[START] = note[NOTE_PHASE] % 1;
    for (let c = 0; c < this.count; c++)
      this.phase[c] =
        ((note[NOTE_PHASE] + note[NOTE_LATE_S] * note[NOTE_TARGET_HZ] + copyPhase(c, this.tone)) % 1) * TURN;
  }

  release(): void {
    // A cycle goes on as it is; the voice lets it fade.
  }

  /** Makes one table that may soon be wanted; says whether there was one. */
  prefetch(): boolean {
    return this.selector.prefetch();
  }

  private widthOf(values: Float64Array, base: number): number {
    return this.pulse ? values[base + WIDTH_OF_PULSE] / 100 : 0.5;
  }

  private choose(hz: number, values: Float64Array, base: number, frames: number): void {
    this.wanted[SELECT_HZ] = hz;
    this.wanted[SELECT_POSITION] = this.position < 0 ? 0 : values[base + this.position] / 100;
    this.wanted[SELECT_SHIFT] = this.shift < 0 ? 0 : values[base + this.shift];
    this.selector.select(this.wanted, frames);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    pitch: Float64Array,
    values: Float64Array,
    base: number,
    stereo: boolean,
  ): void {
    const { count, phase, state, numbers, selector, copies } = this;
    const { ratio } = copies;
    const frames = to - from;
    const hz = pitch[0];
    copies.step(frames, values, base);
    this.choose(hz, values, base, frames);
    const inc0 = state[INCREMENT] * TURN;
    const step = ((hz / this.sampleRateHz) * TURN - inc0) / frames;
    state[INCREMENT] = hz / this.sampleRateHz;
    const { a: table, b: second } = selector;
    const mixed = table !== second;
    this.prepareMix(frames);
    if (count === 1 && !this.pulse) {
      numbers[START_A] = inc0 * ratio[0];
      numbers[STEP_A] = step * ratio[0];
      if (mixed) writeMixed(table, second, left, from, to, phase, numbers);
      else writeAlone(table, left, from, to, phase, numbers);
      if (stereo) for (let i = from; i < to; i++) right[i] = left[i];
      return;
    }
    for (let i = from; i < to; i++) left[i] = 0;
    if (stereo) for (let i = from; i < to; i++) right[i] = 0;
    const gain = 1 / Math.sqrt(count);
    const spread = values[base + SPREAD] / 100;
    numbers[WIDTH] = state[LAST_WIDTH] * TURN;
    state[LAST_WIDTH] = this.widthOf(values, base);
    numbers[WIDTH_STEP] = (state[LAST_WIDTH] * TURN - numbers[WIDTH]) / frames;
    for (let c = 0; c < count; c += this.pulse ? 1 : 2) {
      const panA = stereo ? copyPlace(c, count, 'even') * spread : 0;
      numbers[START_A] = inc0 * ratio[c];
      numbers[STEP_A] = step * ratio[c];
      numbers[LEFT_A] = gain * (1 - panA);
      numbers[RIGHT_A] = gain * (1 + panA);
      if (this.pulse) {
        addPulse(table, left, right, from, to, phase, c, numbers, stereo);
        continue;
      }
      // Copies run in pairs; an odd one out runs with a silent partner, which costs less than a loop of its
      // own.
      const partner = c + 1 < count ? c + 1 : c;
      const panB = stereo ? copyPlace(partner, count, 'even') * spread : 0;
      const gainB = partner === c ? 0 : gain;
      numbers[START_B] = inc0 * ratio[partner];
      numbers[STEP_B] = step * ratio[partner];
      numbers[LEFT_B] = gainB * (1 - panB);
      numbers[RIGHT_B] = gainB * (1 + panB);
      if (mixed) addMixed(table, second, left, right, from, to, phase, c, partner, numbers, stereo);
      else addCopies(table, left, right, from, to, phase, c, partner, numbers, stereo);
    }
  }

  private prepareMix(frames: number): void {
    const { weight } = this.selector;
    this.numbers[MIX] = weight[0];
    this.numbers[MIX_STEP] = (weight[1] - weight[0]) / frames;
  }

  /**
   * Prepares a step of `frames` in which the tone is read at twice the rate by `steer`. `swing[0]` is how far
   * its frequency was displaced last, in
   * hertz: its tables hold no more than what stays clear of folding at the greatest swing of late. `swings`
   * says whether its increment is scaled sample by sample.
   */
  prepareSteered(
    pitch: Float64Array,
    values: Float64Array,
    base: number,
    frames: number,
    swing: Float64Array,
    swings: boolean,
  ): void {
    const { state, numbers, swung } = this;
    numbers[SWINGS] = swings ? 1 : 0;
    swung[0] = swing[0] > swung[0] ? swing[0] : swung[0] * FORGETS;
    this.copies.step(frames, values, base);
    const reach = (pitch[0] + swung[0]) / STEERED_ROOM;
    this.choose(reach > pitch[0] ? reach : pitch[0], values, base, frames);
    const inc0 = (state[INCREMENT] * TURN) / 2;
    const inc1 = ((pitch[0] / this.sampleRateHz) * TURN) / 2;
    state[INCREMENT] = pitch[0] / this.sampleRateHz;
    state[LAST_WIDTH] = this.widthOf(values, base);
    this.prepareMix(2 * frames);
    numbers[START_B] = inc0;
    numbers[STEP_B] = (inc1 - inc0) / (2 * frames);
    numbers[WIDTH] = this.pulse ? state[LAST_WIDTH] * TURN : 0;
  }

  /**
   * Writes the samples from `from` up to `to` of a step at twice the rate, after `prepareSteered`: all copies
   * in the middle.
   */
  steer(out: Float64Array, from: number, to: number, displace: Float64Array, swing: Float64Array): void {
    const { count, numbers, selector } = this;
    const { ratio } = this.copies;
    const mix = numbers[MIX];
    for (let i = from; i < to; i++) out[i] = 0;
    numbers[LEFT_A] = 1 / Math.sqrt(count);
    for (let c = 0; c < count; c++) {
      numbers[START_A] = (numbers[START_B] + from * numbers[STEP_B]) * ratio[c];
      numbers[STEP_A] = numbers[STEP_B] * ratio[c];
      numbers[MIX] = mix + from * numbers[MIX_STEP];
      addSteered(selector.a, selector.b, out, from, to, this.phase, c, numbers, displace, swing);
    }
    numbers[MIX] = mix;
  }

  /**
   * Increment of the first copy at a sample of the step at twice the rate, in cycles; written to
   * `out[place]`.
   */
  increment(sample: number, out: Float64Array, place: number): void {
    out[place] = ((this.numbers[START_B] + sample * this.numbers[STEP_B]) * this.copies.ratio[0]) / TURN;
  }

  /** Phase of the first copy as a whole number, 2^32 to the cycle. */
  get phaseNow(): number {
    return this.phase[0];
  }

  /**
   * Starts the first copy's cycle anew, `age[0]` samples (at twice the rate) before the next one, at its
   * start phase. Writes to `edge` from `place` on how far its value
   * and its slope (a sample) jump there.
   */
  restart(age: Float64Array, edge: Float64Array, place: number): void {
    const { state, numbers, selector } = this;
    const inc = numbers[START_B] * this.copies.ratio[0];
    const width = numbers[WIDTH] | 0;
    const at = this.place;
    const nudge = inc * 0.25;
    const before = (this.phase[0] - age[0] * inc) | 0;
    const after = (state[START] * TURN) | 0;
    at[0] = (before - nudge) | 0;
    readAt(selector.a, selector.b, selector.weight, at, width, edge, place + 2);
    at[0] = before;
    readAt(selector.a, selector.b, selector.weight, at, width, edge, place + 1);
    const old = edge[place + 1];
    const oldSlope = (old - edge[place + 2]) * 4;
    at[0] = (after + nudge) | 0;
    readAt(selector.a, selector.b, selector.weight, at, width, edge, place + 2);
    at[0] = after;
    readAt(selector.a, selector.b, selector.weight, at, width, edge, place + 1);
    const slope = (edge[place + 2] - edge[place + 1]) * 4;
    edge[place] = edge[place + 1] - old;
    edge[place + 1] = slope - oldSlope;
    this.phase[0] = (after + age[0] * inc) | 0;
  }
}
