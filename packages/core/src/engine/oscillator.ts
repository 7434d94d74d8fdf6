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

  constructor(tone: Pick<Tone, 'shape' | 'copies'>, sampleRateHz: number) {
    this.pulse = tone.shape === 'pulse';
    this.tables = waveTables(tone.shape === 'pulse' ? 'saw' : tone.shape, sampleRateHz);
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

  private tune(detuneCents: number): void {
    if (this.last[0] === detuneCents) return;
    this.last[0] = detuneCents;
    for (let c = 0; c < this.copies; c++) this.ratio[c] = Math.pow(2, (this.place(c) * detuneCents) / 1200);
  }

  /** Place of a copy between −1 and 1; a lone copy stands in the middle. */
  private place(copy: number): number {
    return this.copies === 1 ? 0 : (2 * copy) / (this.copies - 1) - 1;
  }

  /** Writes `frames` samples of both sides; of the left side only when `stereo` is false. Pitch runs evenly to `hz`. */
  process(left: Float64Array, right: Float64Array, frames: number, hz: number, width: number, detuneCents: number, spread: number, stereo: boolean): void {
    this.tune(this.copies === 1 ? 0 : detuneCents);
    const inc0 = this.last[1];
    const inc1 = hz / this.sampleRateHz;
    const table = this.tables.at(hz);
    const gain = 1 / Math.sqrt(this.copies);
    for (let i = 0; i < frames; i++) left[i] = 0;
    if (stereo) for (let i = 0; i < frames; i++) right[i] = 0;
    for (let c = 0; c < this.copies; c++) {
      const from = inc0 * this.ratio[c];
      const step = (inc1 * this.ratio[c] - from) / frames;
      const pan = this.place(c) * spread;
      const toLeft = stereo ? gain * (1 - pan) : gain;
      const toRight = gain * (1 + pan);
      if (this.pulse) this.runPulse(c, table, left, right, frames, from, step, width, toLeft, toRight, stereo);
      else this.run(c, table, left, right, frames, from, step, toLeft, toRight, stereo);
    }
    this.last[1] = inc1;
    this.last[2] = width;
  }

  private run(c: number, table: Float32Array, left: Float64Array, right: Float64Array, frames: number, from: number, step: number, toLeft: number, toRight: number, stereo: boolean): void {
    const size = table.length - 1;
    let phase = this.phase[c];
    let inc = from;
    if (stereo) {
      for (let i = 0; i < frames; i++) {
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
      for (let i = 0; i < frames; i++) {
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

  private runPulse(c: number, table: Float32Array, left: Float64Array, right: Float64Array, frames: number, from: number, step: number, width: number, toLeft: number, toRight: number, stereo: boolean): void {
    const size = table.length - 1;
    const widthStep = (width - this.last[2]) / frames;
    let phase = this.phase[c];
    let inc = from;
    let w = this.last[2];
    for (let i = 0; i < frames; i++) {
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
