import type { Tone } from '../document/index.js';
import { waveTables, type WaveTables } from '../dsp/index.js';

/**
 * A band-limited tone of one to twelve copies. Copies stand evenly between −detune and +detune cents and, with spread, evenly
 * from left to right by a linear law, so that the sum of both sides does not change with the spread. A pulse is the
 * difference of two saws, the second later by the width, and so carries no DC.
 */
export class Oscillator {
  private readonly tables: WaveTables;
  private readonly pulse: boolean;
  private readonly copies: number;
  private readonly phase: Float64Array;
  private readonly ratio: Float64Array;
  /** Detune in force, then the last increment and width. */
  private readonly last = Float64Array.of(-1, 0, 0.5);
  private readonly sampleRateHz: number;
  private table: Float32Array;
  /** Pitches for which `table` is the right one. */
  private readonly range = new Float64Array(2);

  constructor(tone: Pick<Tone, 'shape' | 'copies'>, sampleRateHz: number) {
    this.pulse = tone.shape === 'pulse';
    this.tables = waveTables(tone.shape === 'pulse' ? 'saw' : tone.shape, sampleRateHz);
    this.table = this.tables.tables[0];
    this.copies = tone.copies;
    this.phase = new Float64Array(tone.copies);
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
    for (let c = 0; c < this.copies; c++) this.phase[c] = (phase + c * 0.61803398875) % 1;
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

  /** Writes the samples from `from` up to `to` of both sides; of the left side only when `stereo` is false. Pitch runs evenly to `hz`. */
  process(left: Float64Array, right: Float64Array, from: number, to: number, hz: number, width: number, detuneCents: number, spread: number, stereo: boolean): void {
    this.tune(this.copies === 1 ? 0 : detuneCents);
    const inc0 = this.last[1];
    const inc1 = hz / this.sampleRateHz;
    const table = this.tableFor(hz);
    const frames = to - from;
    const gain = 1 / Math.sqrt(this.copies);
    if (this.copies === 1 && !this.pulse) {
      this.runAlone(table, left, from, to, inc0, (inc1 - inc0) / frames);
      if (stereo) for (let i = from; i < to; i++) right[i] = left[i];
      this.last[1] = inc1;
      return;
    }
    for (let i = from; i < to; i++) left[i] = 0;
    if (stereo) for (let i = from; i < to; i++) right[i] = 0;
    for (let c = 0; c < this.copies; c++) {
      const start = inc0 * this.ratio[c];
      const step = (inc1 * this.ratio[c] - start) / frames;
      const pan = this.place(c) * spread;
      const toLeft = stereo ? gain * (1 - pan) : gain;
      const toRight = gain * (1 + pan);
      if (this.pulse) this.runPulse(c, table, left, right, from, to, start, step, width, toLeft, toRight, stereo);
      else this.run(c, table, left, right, from, to, start, step, toLeft, toRight, stereo);
    }
    this.last[1] = inc1;
    this.last[2] = width;
  }

  private runAlone(table: Float32Array, out: Float64Array, from: number, to: number, start: number, step: number): void {
    const size = table.length - 1;
    let phase = this.phase[0];
    let inc = start;
    for (let i = from; i < to; i++) {
      const x = phase * size;
      const k = x | 0;
      const s = table[k];
      out[i] = s + (x - k) * (table[k + 1] - s);
      inc += step;
      phase += inc;
      if (phase >= 1) phase -= 1;
    }
    this.phase[0] = phase;
  }

  private run(c: number, table: Float32Array, left: Float64Array, right: Float64Array, from: number, to: number, start: number, step: number, toLeft: number, toRight: number, stereo: boolean): void {
    const size = table.length - 1;
    let phase = this.phase[c];
    let inc = start;
    if (stereo) {
      for (let i = from; i < to; i++) {
        const x = phase * size;
        const k = x | 0;
        const s = table[k] + (x - k) * (table[k + 1] - table[k]);
        left[i] += toLeft * s;
        right[i] += toRight * s;
        inc += step;
        phase += inc;
        if (phase >= 1) phase -= 1;
      }
    } else {
      for (let i = from; i < to; i++) {
        const x = phase * size;
        const k = x | 0;
        left[i] += toLeft * (table[k] + (x - k) * (table[k + 1] - table[k]));
        inc += step;
        phase += inc;
        if (phase >= 1) phase -= 1;
      }
    }
    this.phase[c] = phase;
  }

  private runPulse(c: number, table: Float32Array, left: Float64Array, right: Float64Array, from: number, to: number, start: number, step: number, width: number, toLeft: number, toRight: number, stereo: boolean): void {
    const size = table.length - 1;
    const widthStep = (width - this.last[2]) / (to - from);
    let phase = this.phase[c];
    let inc = start;
    let w = this.last[2];
    for (let i = from; i < to; i++) {
      w += widthStep;
      let other = phase - w;
      if (other < 0) other += 1;
      const x = phase * size;
      const k = x | 0;
      const y = other * size;
      const m = y | 0;
      const s = table[k] + (x - k) * (table[k + 1] - table[k]) - table[m] - (y - m) * (table[m + 1] - table[m]);
      left[i] += toLeft * s;
      if (stereo) right[i] += toRight * s;
      inc += step;
      phase += inc;
      if (phase >= 1) phase -= 1;
    }
    this.phase[c] = phase;
  }
}
