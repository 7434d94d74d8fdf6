import type { SourceOf, Tone } from '../../document/index.js';
import {
  BLOCK,
  CycleBank,
  FORMANT_LEVELS_DB,
  FORMANT_WIDTHS_HZ,
  formantsOf,
  framesFromAudio,
  glottalSlope,
  prewarp,
  Random,
  READER_NUMBERS,
  START_A,
  StateVariable,
  STEP_A,
  tableLimitHz,
  TURN,
  writeAlone,
} from '../../dsp/index.js';
import { Copies } from './copies.js';
import { NOTE_HZ, NOTE_PHASE, TONE, type ToneContext, type ToneGenerator } from './tone.js';

const FORMANTS = 5;
/** The voice's tilt turns about this frequency, in hertz. */
const TILT_HZ = 1000;
const { positionPct: POSITION, sizeSt: SIZE, tiltDb: TILT, breathPct: BREATH } = TONE.source.vowel;
/** Brings a vowel near the level of the other tones. */
const LEVEL = 2.4;

const banks = new Map<number, CycleBank>();

/** The voiced source: one cycle of a glottal flow's slope. */
function voicedBank(sampleRateHz: number): CycleBank {
  let bank = banks.get(sampleRateHz);
  if (!bank) {
    const size = 4096;
    bank = new CycleBank(
      framesFromAudio(
        Float64Array.from({ length: size }, (_, i) => glottalSlope(i / size)),
        size,
      ),
      { limitHz: tableLimitHz(sampleRateHz) },
    );
    banks.set(sampleRateHz, bank);
  }
  return bank;
}

/**
 * A voiced source through five formants in parallel, with alternate signs so that there are no deep dips
 * between neighbours: Klatt, Software for a
 * cascade/parallel formant synthesizer (1980). One copy, in the middle.
 */
export class VowelTone implements ToneGenerator {
  readonly ringing = 0;
  readonly hasPhase = true;
  private readonly bank: CycleBank;
  private readonly phase = new Int32Array(1);
  private readonly drift: Copies;
  private readonly numbers = new Float64Array(READER_NUMBERS);
  private readonly section = new Float64Array(3);
  private readonly formants = Array.from({ length: FORMANTS }, () => new StateVariable('band'));
  /** Warped centre of each formant at the end of the last step. */
  private readonly warped = new Float64Array(FORMANTS);
  /** Increment, state of the tilt, phase for the breath. */
  private readonly state = new Float64Array(3);
  private readonly random: Random;
  private readonly voice = new Float64Array(BLOCK);
  private readonly band = new Float64Array(BLOCK);
  private readonly sampleRateHz: number;
  /** Frequencies of the formants of each vowel on the way, one after the other. */
  private table = new Float64Array(0);
  private stops = 0;
  private readonly gains = Float64Array.from(
    FORMANT_LEVELS_DB,
    (db, i) => (i % 2 === 0 ? 1 : -1) * LEVEL * 10 ** (db / 20),
  );

  constructor(tone: Tone, context: ToneContext) {
    this.sampleRateHz = context.sampleRateHz;
    this.bank = voicedBank(context.sampleRateHz);
    this.drift = new Copies(1, 'even', context.sampleRateHz, context.seed, context.stream);
    this.random = new Random(context.seed, context.stream + 1);
    this.set(tone);
  }

  set(tone: Tone): void {
    const { speaker, way } = tone.source as SourceOf<'vowel'>;
    this.table = Float64Array.from(way.flatMap((vowel) => formantsOf(speaker, vowel)));
    this.stops = way.length;
  }

  copyFrom(other: ToneGenerator): void {
    if (!(other instanceof VowelTone)) return;
    this.phase.set(other.phase);
    this.state.set(other.state);
    this.warped.set(other.warped);
    for (let f = 0; f < FORMANTS; f++) this.formants[f].copyFrom(other.formants[f]);
  }

  start(note: Float64Array): void {
    this.rephase(note);
    this.state[0] = note[NOTE_HZ] / this.sampleRateHz;
    this.state[1] = 0;
    this.warped.fill(0);
    for (let f = 0; f < FORMANTS; f++) this.formants[f].reset();
  }

  rephase(note: Float64Array): void {
    this.phase[0] = (note[NOTE_PHASE] % 1) * TURN;
  }

  release(): void {
    // The voice lets it fade.
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
    const { numbers, state, voice, band, section, formants, warped, gains } = this;
    const frames = to - from;
    this.drift.step(frames, values, base);
    const hz = pitch[0] * this.drift.ratio[0];
    const next = hz / this.sampleRateHz;
    const table = this.bank.table(0, this.bank.levelFor(hz));
    numbers[START_A] = state[0] * TURN;
    numbers[STEP_A] = ((next - state[0]) * TURN) / frames;
    state[0] = next;
    const breath = values[base + BREATH] / 100;
    const open = this.phase[0] >>> 0;
    writeAlone(table, voice, from, to, this.phase, numbers);
    if (breath > 0) {
      // Breath passes while the glottis is open, in the first half of the cycle.
      this.random.fillFrom(band, from, to);
      const level = 0.5 * breath * (open < TURN / 2 ? 1 : 0.35);
      for (let i = from; i < to; i++) voice[i] = (1 - 0.5 * breath) * voice[i] + level * band[i];
    }
    this.tilt(from, to, values[base + TILT]);
    const size = Math.pow(2, values[base + SIZE] / 12);
    const place = (values[base + POSITION] / 100) * (this.stops - 1);
    const stop = place >= this.stops - 2 ? this.stops - 2 : place | 0;
    const part = place - stop;
    for (let i = from; i < to; i++) left[i] = 0;
    for (let f = 0; f < FORMANTS; f++) {
      const low = this.table[stop * FORMANTS + f];
      const centre = size * low * Math.pow(this.table[(stop + 1) * FORMANTS + f] / low, part);
      const g = prewarp(centre, this.sampleRateHz);
      section[0] = warped[f] === 0 ? g : warped[f];
      section[1] = warped[f] = g;
      section[2] = (size * FORMANT_WIDTHS_HZ[f]) / centre;
      for (let i = from; i < to; i++) band[i] = voice[i];
      formants[f].process(band, from, to, section);
      const gain = gains[f];
      for (let i = from; i < to; i++) left[i] += gain * band[i];
    }
    if (stereo) for (let i = from; i < to; i++) right[i] = left[i];
  }

  /** A shelf above 1 kHz: the octave above it is raised or lowered by about `db`. */
  private tilt(from: number, to: number, db: number): void {
    const { state, voice } = this;
    const rate = 1 - Math.exp((-2 * Math.PI * TILT_HZ) / this.sampleRateHz);
    const high = Math.pow(10, db / 20);
    let low = state[1];
    for (let i = from; i < to; i++) {
      low += rate * (voice[i] - low);
      voice[i] = low + high * (voice[i] - low);
    }
    state[1] = low < 1e-18 && low > -1e-18 ? 0 : low;
  }
}
