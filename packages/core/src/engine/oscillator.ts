import type { Tone } from '../document/index.js';
import { waveTables, type WaveTables } from '../dsp/index.js';
import { CONTROL_DETUNE, CONTROL_HZ, CONTROL_SPREAD, CONTROL_WIDTH } from './control.js';
import { addCopies, addPulse, LEFT_A, LEFT_B, READER_NUMBERS, RIGHT_A, RIGHT_B, START_A, START_B, STEP_A, STEP_B, TURN, WIDTH, WIDTH_STEP, writeAlone } from './table-readers.js';

/**
 * A band-limited tone of one to twelve copies. Copies stand evenly between −detune and +detune cents and, with spread, evenly
 * from left to right by a linear law, so that the sum of both sides does not change with the spread. A pulse is the
 * difference of two saws, the second later by the width, and so carries no DC.
 */
export class Oscillator {
  private readonly tables: WaveTables;
  private readonly pulse: boolean;
  private readonly copies: number;
  /** Phases as whole numbers: 2^32 to the cycle, which wrap by themselves. */
  private readonly phase: Int32Array;
  private readonly ratio: Float64Array;
  /** Detune in force, then the last increment (cycles) and width. */
  private readonly last = Float64Array.of(-1, 0, 0.5);
  private readonly numbers = new Float64Array(READER_NUMBERS);
  private readonly sampleRateHz: number;
  private table: Float32Array;
  /** Pitches for which `table` is the right one. */
  private readonly range = new Float64Array(2);

  constructor(tone: Pick<Tone, 'shape' | 'copies'>, sampleRateHz: number) {
    this.pulse = tone.shape === 'pulse';
    this.tables = waveTables(tone.shape === 'pulse' ? 'saw' : tone.shape, sampleRateHz);
    this.table = this.tables.tables[0];
    this.copies = tone.copies;
    this.phase = new Int32Array(tone.copies);
    this.ratio = new Float64Array(tone.copies).fill(1);
    this.sampleRateHz = sampleRateHz;
  }

  copyFrom(other: Oscillator): void {
    if (other.copies === this.copies) this.phase.set(other.phase);
    else this.phase.fill(other.phase[0]);
    this.last[1] = other.last[1];
    this.last[2] = other.last[2];
  }

  /**
   * Starts a note: the first copy at `phase` cycles, the others at golden-ratio steps from it so that their peaks do not pile
   * up. The first control step begins at the pitch `hz` and pulse width `width` (0 to 1).
   */
  start(phase: number, hz: number, width: number): void {
    for (let c = 0; c < this.copies; c++) this.phase[c] = ((phase + c * 0.61803398875) % 1) * TURN;
    this.last[1] = hz / this.sampleRateHz;
    this.last[2] = width;
  }

  /** The table for a pitch, looked for anew only when the pitch has left the last one's half octave. */
  private tableFor(hz: number): Float32Array {
    if (hz < this.range[0] || hz >= this.range[1]) {
      const index = this.tables.indexFor(hz);
      this.table = this.tables.tables[index];
      this.range[0] = index === 0 ? 0 : this.tables.lowest(index);
      this.range[1] = this.tables.lowest(index + 1);
    }
    return this.table;
  }

  private tune(detuneCents: number): void {
    if (this.last[0] === detuneCents) return;
    this.last[0] = detuneCents;
    for (let c = 0; c < this.copies; c++) this.ratio[c] = Math.pow(2, (this.place(c) * detuneCents) / 1200);
  }

  /** Place of a copy between −1 and 1; a lone copy stands in the middle. */
  private place(copy: number): number {
    return this.copies === 1 ? 0 : (2 * copy) / (this.copies - 1) - 1;
  }

  /** Writes the samples from `from` up to `to` of both sides; of the left side only when `stereo` is false. Pitch runs evenly to the one in `control`. */
  process(left: Float64Array, right: Float64Array, from: number, to: number, control: Float64Array, stereo: boolean): void {
    const { copies, phase, ratio, last, numbers } = this;
    const hz = control[CONTROL_HZ];
    const spread = control[CONTROL_SPREAD];
    this.tune(copies === 1 ? 0 : control[CONTROL_DETUNE]);
    const inc0 = last[1] * TURN;
    const table = this.tableFor(hz);
    const step = ((hz / this.sampleRateHz) * TURN - inc0) / (to - from);
    last[1] = hz / this.sampleRateHz;
    if (copies === 1 && !this.pulse) {
      numbers[START_A] = inc0;
      numbers[STEP_A] = step;
      writeAlone(table, left, from, to, phase, numbers);
      if (stereo) for (let i = from; i < to; i++) right[i] = left[i];
      return;
    }
    for (let i = from; i < to; i++) left[i] = 0;
    if (stereo) for (let i = from; i < to; i++) right[i] = 0;
    const gain = 1 / Math.sqrt(copies);
    numbers[WIDTH] = last[2] * TURN;
    numbers[WIDTH_STEP] = ((control[CONTROL_WIDTH] - last[2]) * TURN) / (to - from);
    last[2] = control[CONTROL_WIDTH];
    const stride = this.pulse ? 1 : 2;
    for (let c = 0; c < copies; c += stride) {
      const panA = stereo ? this.place(c) * spread : 0;
      numbers[START_A] = inc0 * ratio[c];
      numbers[STEP_A] = step * ratio[c];
      numbers[LEFT_A] = gain * (1 - panA);
      numbers[RIGHT_A] = gain * (1 + panA);
      if (this.pulse) {
        addPulse(table, left, right, from, to, phase, c, numbers, stereo);
        continue;
      }
      // Copies run in pairs; an odd one out runs with a silent partner, which costs less than a loop of its own.
      const partner = c + 1 < copies ? c + 1 : c;
      const panB = stereo ? this.place(partner) * spread : 0;
      const gainB = partner === c ? 0 : gain;
      numbers[START_B] = inc0 * ratio[partner];
      numbers[STEP_B] = step * ratio[partner];
      numbers[LEFT_B] = gainB * (1 - panB);
      numbers[RIGHT_B] = gainB * (1 + panB);
      addCopies(table, left, right, from, to, phase, c, partner, numbers, stereo);
    }
  }
}
