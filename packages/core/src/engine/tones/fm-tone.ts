import { sourceShape, type SourceOf, type Tone } from '../../document/index.js';
import { BLOCK, type CycleBank, HalfBandDown, SegmentEnvelope, TURN, waveBank } from '../../dsp/index.js';
import { Copies } from './copies.js';
import {
  NOTE_HZ,
  NOTE_LATE_S,
  NOTE_PHASE,
  NOTE_TARGET_HZ,
  NOTE_VELOCITY,
  TONE,
  type ToneContext,
  type ToneGenerator,
} from './tone.js';

/** Oscillators. */
const COUNT = sourceShape.cases.fm.fields.oscillators.max;
const {
  oscillators: {
    first: OSCILLATORS,
    each: EACH,
    of: { ratio: RATIO, fineCents: FINE, levelPct: OUT },
  },
  matrix: { first: MATRIX },
  scale: SCALE,
} = TONE.source.fm;
/**
 * Phases are displaced in steps of 2^-24 cycles, which stay within whole numbers of 32 bits however far they
 * go: the last 8 bits are 0.
 */
const RADIANS = 16777216 / (2 * Math.PI);
/**
 * The swing of an oscillator's frequency by all that steer it is held below this share of the upper rate less
 * its own frequency: by Carson's rule what lies
 * further out, and would fold, is weak.
 */
const WIDEST = 0.62;
/** The same at the engine's own rate, and how far the sidebands may reach for a note to be run at it. */
const WIDEST_PLAIN = 0.3;

/**
 * Four oscillators that steer each other's phase: Chowning, The synthesis of complex audio spectra by means
 * of frequency modulation (1973); an amount is
 * the index in radians. Run at twice the rate, but for notes whose sidebands stay far below half of it. An
 * oscillator that steers itself does so by the mean of its last two values, which keeps it from
 * hunting. One copy, in the middle.
 */
export class FmTone implements ToneGenerator {
  readonly hasPhase = true;
  readonly ringing = 0;
  private source: SourceOf<'fm'>;
  private readonly phase = new Int32Array(COUNT);
  private readonly increment = new Float64Array(COUNT);
  private readonly incrementStep = new Float64Array(COUNT);
  private readonly level = new Float64Array(COUNT);
  private readonly levelStep = new Float64Array(COUNT);
  private readonly index = new Float64Array(COUNT * COUNT);
  private readonly indexStep = new Float64Array(COUNT * COUNT);
  private readonly velocity = new Float64Array(COUNT).fill(1);
  /** Last value of each oscillator, then the one before it. */
  private readonly value = new Float64Array(2 * COUNT);
  private readonly bandwidth = new Float64Array(COUNT);
  private readonly steering = new Float64Array(2 * BLOCK);
  private readonly waves: readonly Float64Array[] = Array.from(
    { length: COUNT },
    () => new Float64Array(2 * BLOCK),
  );
  private readonly envelopes: readonly SegmentEnvelope[];
  private banks: readonly CycleBank[];
  private readonly tables: Float32Array[];
  /** Frequencies for which each table is the right one. */
  private readonly lowest = new Float64Array(COUNT);
  private readonly highest = new Float64Array(COUNT);
  private readonly drift: Copies;
  private readonly upper = new Float64Array(2 * BLOCK);
  private readonly down = new HalfBandDown();
  private readonly sampleRateHz: number;
  private started = false;
  /**
   * How many times the engine's rate the note is run at: 2, or 1 where its sidebands stay far below half of
   * it.
   */
  private times = 2;
  private always = false;

  constructor(tone: Tone, context: ToneContext) {
    this.source = tone.source as SourceOf<'fm'>;
    this.sampleRateHz = context.sampleRateHz;
    this.envelopes = this.source.oscillators.map(
      ({ envelope }) => new SegmentEnvelope(envelope, context.sampleRateHz),
    );
    this.banks = this.findBanks();
    this.tables = this.banks.map((bank) => bank.table(0, 6));
    this.drift = new Copies(1, 'even', context.sampleRateHz, context.seed, context.stream);
  }

  private findBanks(): CycleBank[] {
    return this.source.oscillators.map(({ wave }) => waveBank(wave, this.sampleRateHz / 2));
  }

  set(tone: Tone): void {
    this.source = tone.source as SourceOf<'fm'>;
    this.source.oscillators.forEach(({ envelope }, i) => {
      this.envelopes[i].setTimes(envelope);
    });
    this.banks = this.findBanks();
    this.highest.fill(0);
  }

  /** Runs every note at twice the rate, for those who read it so. */
  forceUpper(): void {
    this.always = true;
    this.times = 2;
  }

  /**
   * How far the sidebands of a beginning note reach, in hertz, by Carson's rule along the chain; far above
   * all where an oscillator steers one above it or has edges.
   */
  private reach(hz: number, values: Float64Array, base: number): number {
    let most = 0;
    const { bandwidth } = this;
    for (let t = COUNT - 1; t >= 0; t--) {
      if (this.source.oscillators[t].wave !== 'sine') return Infinity;
      const f = hz * this.ratio(t, values, base);
      bandwidth[t] = f;
      for (let o = 0; o < COUNT; o++) {
        const amount = values[base + MATRIX + o * COUNT + t];
        if (amount === 0) continue;
        if (o < t) return Infinity;
        bandwidth[t] += (amount + 2) * (o === t ? 2 * f : bandwidth[o]);
      }
      if (bandwidth[t] > most) most = bandwidth[t];
    }
    return most;
  }

  copyFrom(other: ToneGenerator): void {
    if (!(other instanceof FmTone)) return;
    if (!this.always) this.times = other.times;
    this.phase.set(other.phase);
    for (let o = 0; o < COUNT; o++) this.increment[o] = (other.increment[o] * other.times) / this.times;
    this.level.set(other.level);
    this.index.set(other.index);
    this.velocity.set(other.velocity);
    this.value.set(other.value);
    this.started = other.started;
    for (let o = 0; o < COUNT; o++) this.envelopes[o].copyFrom(other.envelopes[o]);
    this.down.copyFrom(other.down);
  }

  start(note: Float64Array, values: Float64Array, base: number): void {
    const highest = note[NOTE_HZ] > note[NOTE_TARGET_HZ] ? note[NOTE_HZ] : note[NOTE_TARGET_HZ];
    this.times = this.always || this.reach(highest, values, base) > WIDEST_PLAIN * this.sampleRateHz ? 2 : 1;
    this.rephase(note, values, base);
    for (let o = 0; o < COUNT; o++) {
      this.increment[o] = (note[NOTE_HZ] * this.ratio(o, values, base)) / (this.times * this.sampleRateHz);
      this.velocity[o] = 1 - (this.source.oscillators[o].velocityPct / 100) * (1 - note[NOTE_VELOCITY] / 127);
      this.envelopes[o].reset();
      this.envelopes[o].start();
    }
    this.level.fill(0);
    this.index.fill(0);
    this.value.fill(0);
    this.down.reset();
    this.started = true;
  }

  rephase(note: Float64Array, values: Float64Array, base: number): void {
    const cycles = note[NOTE_PHASE] + (this.times === 2 ? note[NOTE_LATE_S] * note[NOTE_TARGET_HZ] : 0);
    // Every oscillator starts as far on as the note itself does in time, so that turning the note turns the
    // wave.
    for (let o = 0; o < COUNT; o++) this.phase[o] = (((cycles * this.ratio(o, values, base)) % 1) * TURN) | 0;
  }

  release(): void {
    for (let o = 0; o < COUNT; o++) this.envelopes[o].release();
  }

  private ratio(o: number, values: Float64Array, base: number): number {
    const place = base + OSCILLATORS + o * EACH;
    const exact = values[place + RATIO] * values[base + SCALE];
    return values[place + FINE] === 0 ? exact : exact * Math.pow(2, values[place + FINE] / 1200);
  }

  private prepare(frames: number, hz: number, values: Float64Array, base: number): void {
    const { increment, incrementStep, level, levelStep, index, indexStep, envelopes, velocity, source } =
      this;
    const samples = this.times * frames;
    for (let o = 0; o < COUNT; o++) {
      const { on } = source.oscillators[o];
      const f = hz * this.ratio(o, values, base);
      const next = Math.min(0.45, f / (this.times * this.sampleRateHz));
      incrementStep[o] = (next - increment[o]) / samples;
      envelopes[o].step(frames);
      const loud = on ? envelopes[o].level * velocity[o] : 0;
      const out = (loud * values[base + OSCILLATORS + o * EACH + OUT]) / 100;
      levelStep[o] = (out - level[o]) / samples;
      if (!(f >= this.lowest[o] && f < this.highest[o])) {
        const level = this.banks[o].levelFor(f);
        this.tables[o] = this.banks[o].table(0, level);
        this.lowest[o] = level === 0 ? 0 : this.banks[o].lowest(level);
        this.highest[o] = this.banks[o].lowest(level + 1);
      }
      for (let t = 0; t < COUNT; t++) indexStep[o * COUNT + t] = loud * values[base + MATRIX + o * COUNT + t];
    }
    for (let t = 0; t < COUNT; t++) {
      // Carson's rule for all that steer t: the sum of index times frequency.
      let swing = 0;
      for (let o = 0; o < COUNT; o++)
        swing += indexStep[o * COUNT + t] * (increment[o] + samples * incrementStep[o]);
      const room = (this.times === 2 ? WIDEST : WIDEST_PLAIN) - increment[t];
      const share = swing > room ? (room > 0 ? room / swing : 0) : 1;
      for (let o = 0; o < COUNT; o++) {
        const place = o * COUNT + t;
        const next = indexStep[place] * share;
        if (this.started) index[place] = next;
        indexStep[place] = (next - index[place]) / samples;
      }
    }
    this.started = false;
  }

  /** Writes a step at the rate of the note to the start of `out`. */
  processUpper(
    out: Float64Array,
    frames: number,
    pitch: Float64Array,
    values: Float64Array,
    base: number,
  ): void {
    this.drift.step(frames, values, base);
    this.prepare(frames, pitch[0] * this.drift.ratio[0], values, base);
    const samples = this.times * frames;
    for (let i = 0; i < samples; i++) out[i] = 0;
    if (this.backward()) this.runTogether(out, samples);
    else for (let t = COUNT - 1; t >= 0; t--) this.runAlone(t, out, samples);
  }

  /** Whether any oscillator steers one above it: then all must run sample by sample. */
  private backward(): boolean {
    const { index, indexStep } = this;
    for (let o = 0; o < COUNT; o++)
      for (let t = o + 1; t < COUNT; t++)
        if (index[o * COUNT + t] !== 0 || indexStep[o * COUNT + t] !== 0) return true;
    return false;
  }

  /** Whether an oscillator is heard or steers any other in this step. */
  private acts(t: number): boolean {
    if (this.level[t] !== 0 || this.levelStep[t] !== 0) return true;
    for (let k = 0; k < COUNT; k++)
      if (this.index[t * COUNT + k] !== 0 || this.indexStep[t * COUNT + k] !== 0) return true;
    return false;
  }

  /** Runs one oscillator through the step; those above it have run and stand in `waves`. */
  private runAlone(t: number, out: Float64Array, samples: number): void {
    const { phase, increment, incrementStep, level, levelStep, index, indexStep, value, steering, waves } =
      this;
    const wave = waves[t];
    if (!this.acts(t)) {
      // Nobody hears it; its phase goes on.
      const total = samples * increment[t] + 0.5 * samples * (samples + 1) * incrementStep[t];
      phase[t] = (phase[t] + total * TURN) | 0;
      increment[t] += samples * incrementStep[t];
      return;
    }
    const steered = this.gatherSteering(t, samples);
    const table = this.tables[t];
    const shift = Math.clz32(table.length - 1) + 1;
    const mask = (1 << shift) - 1;
    const unit = 1 / (1 << shift);
    const self = t * COUNT + t;
    let back = index[self];
    const backStep = indexStep[self];
    let p = phase[t];
    let inc = (increment[t] * TURN) | 0;
    const incStep = (incrementStep[t] * TURN) | 0;
    if (back !== 0 || backStep !== 0) {
      let last = value[t];
      let before = value[COUNT + t];
      for (let i = 0; i < samples; i++) {
        // What the value before the last says is worked out apart: each sample waits for the last one.
        back += backStep;
        const half = 0.5 * RADIANS * back;
        const known = (steered ? steering[i] * RADIANS : 0) + half * before;
        const q = (p + (((known + half * last) | 0) << 8)) | 0;
        const k = q >>> shift;
        const s = table[k];
        before = last;
        last = s + (q & mask) * unit * (table[k + 1] - s);
        wave[i] = last;
        inc = (inc + incStep) | 0;
        p = (p + inc) | 0;
      }
    } else if (steered) {
      for (let i = 0; i < samples; i++) {
        const q = (p + (((steering[i] * RADIANS) | 0) << 8)) | 0;
        const k = q >>> shift;
        const s = table[k];
        wave[i] = s + (q & mask) * unit * (table[k + 1] - s);
        inc = (inc + incStep) | 0;
        p = (p + inc) | 0;
      }
    } else {
      for (let i = 0; i < samples; i++) {
        const k = p >>> shift;
        const s = table[k];
        wave[i] = s + (p & mask) * unit * (table[k + 1] - s);
        inc = (inc + incStep) | 0;
        p = (p + inc) | 0;
      }
    }
    let gain = level[t];
    const gainStep = levelStep[t];
    if (gain !== 0 || gainStep !== 0) {
      for (let i = 0; i < samples; i++) {
        gain += gainStep;
        out[i] += gain * wave[i];
      }
    }
    phase[t] = p;
    increment[t] += samples * incrementStep[t];
    level[t] = gain;
    index[self] = back;
    value[t] = wave[samples - 1];
    value[COUNT + t] = wave[samples - 2];
  }

  /** Sums what the oscillators above `t` steer it by; says whether any does. */
  private gatherSteering(t: number, samples: number): boolean {
    const { index, indexStep, steering, waves } = this;
    let steered = false;
    for (let o = t + 1; o < COUNT; o++) {
      const place = o * COUNT + t;
      let amount = index[place];
      const grow = indexStep[place];
      if (amount === 0 && grow === 0) continue;
      const by = waves[o];
      if (steered) {
        for (let i = 0; i < samples; i++) {
          amount += grow;
          steering[i] += amount * by[i];
        }
      } else {
        for (let i = 0; i < samples; i++) {
          amount += grow;
          steering[i] = amount * by[i];
        }
      }
      steered = true;
      index[place] = amount;
    }
    return steered;
  }

  /**
   * All oscillators sample by sample, from the fourth to the first: each hears what those above it do now,
   * and what those below it did last.
   */
  private runTogether(out: Float64Array, samples: number): void {
    const { phase, increment, incrementStep, level, levelStep, index, indexStep, value, tables } = this;
    for (let i = 0; i < samples; i++) {
      let sum = 0;
      for (let t = COUNT - 1; t >= 0; t--) {
        let steer = 0;
        for (let o = 0; o < COUNT; o++) {
          const place = o * COUNT + t;
          const amount = index[place] + indexStep[place];
          index[place] = amount;
          if (amount === 0) continue;
          steer += amount * (o === t ? 0.5 * (value[o] + value[COUNT + o]) : value[o]);
        }
        const table = tables[t];
        const shift = Math.clz32(table.length - 1) + 1;
        const q = (phase[t] + (((steer * RADIANS) | 0) << 8)) | 0;
        const k = q >>> shift;
        const s = table[k];
        value[COUNT + t] = value[t];
        value[t] = s + ((q & ((1 << shift) - 1)) / (1 << shift)) * (table[k + 1] - s);
        increment[t] += incrementStep[t];
        phase[t] = (phase[t] + increment[t] * TURN) | 0;
        level[t] += levelStep[t];
        sum += level[t] * value[t];
      }
      out[i] = sum;
    }
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
    this.processUpper(this.upper, to - from, pitch, values, base);
    if (this.times === 2) this.down.process(this.upper, left, from, to);
    else for (let i = from; i < to; i++) left[i] = this.upper[i - from];
    if (stereo) for (let i = from; i < to; i++) right[i] = left[i];
  }
}
