import type { SourceOf, Tone } from '../../document/index.js';
import { MOST_HARMONICS } from '../../document/index.js';
import {
  PARTIAL_HZ,
  PARTIAL_NUMBERS,
  PARTIAL_STRETCH,
  PartialBank,
  type CycleSpectrum,
} from '../../dsp/index.js';
import { Copies } from './copies.js';
import { NOTE_PHASE, TONE, type ToneContext, type ToneGenerator } from './tone.js';
import { drawnSpectra } from './tone-bank.js';

const { positionPct: POSITION, stretchPct: STRETCH } = TONE.source.harmonics;

/**
 * Drawn harmonics each by itself, for a spread tuning and for harmonics that ring on after the note: one
 * copy, in the middle.
 */
export class PartialTone implements ToneGenerator {
  readonly hasPhase = true;
  private readonly bank: PartialBank;
  private readonly count: number;
  private readonly drift: Copies;
  private readonly numbers = new Float64Array(PARTIAL_NUMBERS);
  private readonly amplitude = new Float64Array(MOST_HARMONICS);
  private readonly phase = new Float64Array(MOST_HARMONICS);
  private spectra: readonly CycleSpectrum[];
  private source: SourceOf<'harmonics'>;
  /** Position for which the partials were last set. */
  private readonly last = Float64Array.of(-1);
  private released = false;

  constructor(tone: Tone, context: ToneContext) {
    this.source = tone.source as SourceOf<'harmonics'>;
    this.spectra = drawnSpectra(this.source, context.a4Hz);
    this.count = MOST_HARMONICS;
    this.bank = new PartialBank(this.count, context.sampleRateHz);
    this.drift = new Copies(1, 'even', context.sampleRateHz, context.seed, context.stream);
  }

  set(tone: Tone, context: ToneContext): void {
    this.source = tone.source as SourceOf<'harmonics'>;
    this.spectra = drawnSpectra(this.source, context.a4Hz);
    this.last[0] = -1;
  }

  copyFrom(other: ToneGenerator): void {
    if (!(other instanceof PartialTone)) return;
    this.bank.copyFrom(other.bank);
    this.released = other.released;
  }

  /** Amplitudes and phases between the two drawn states. */
  private draw(position: number): void {
    if (this.last[0] === position) return;
    this.last[0] = position;
    const { amplitude, phase, spectra } = this;
    const a = spectra[0];
    const b = spectra[spectra.length - 1];
    for (let n = 0; n < this.count; n++) {
      const inside = n < a.sine.length;
      const s = inside ? a.sine[n] + position * (b.sine[n] - a.sine[n]) : 0;
      const c = inside ? a.cosine[n] + position * (b.cosine[n] - a.cosine[n]) : 0;
      amplitude[n] = Math.sqrt(s * s + c * c);
      phase[n] = Math.atan2(c, s);
    }
    this.bank.setPartials(amplitude, phase);
  }

  start(note: Float64Array, values: Float64Array, base: number): void {
    this.draw(values[base + POSITION] / 100);
    this.bank.start(note[NOTE_PHASE]);
    this.released = false;
  }

  rephase(note: Float64Array): void {
    this.bank.turnTo(note[NOTE_PHASE]);
  }

  release(): void {
    const { ringMs, ringTiltPct } = this.source;
    if (ringMs > 0 && !this.released) this.bank.ringOut(ringMs / 1000, ringTiltPct / 100);
    this.released = true;
  }

  get ringing(): number {
    return this.source.ringMs > 0 ? this.bank.ringing : 0;
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
    this.draw(values[base + POSITION] / 100);
    this.drift.step(to - from, values, base);
    this.numbers[PARTIAL_HZ] = pitch[0] * this.drift.ratio[0];
    this.numbers[PARTIAL_STRETCH] = values[base + STRETCH] / 100;
    this.bank.write(left, from, to, this.numbers);
    if (stereo) for (let i = from; i < to; i++) right[i] = left[i];
  }
}
