/**
 * Readers of wave tables with linear interpolation. Numbers that are not whole come in a typed array, since the engine that runs this
 * would put each such argument on the heap. A phase is a whole number of 32 bits, 2^32 to the cycle: it wraps by itself, its
 * upper bits are the place in the table and its lower bits the way to the next value. Tables have 2^n + 1 values. Increments
 * are given as numbers in the same unit with the step by which they grow each frame; phases never drift, since each control step begins
 * from its own increment.
 */

/** One cycle. */
export const TURN = 4294967296;

/** Lower bits of a phase for a table. */
function lowerBits(table: Float32Array): number {
  return Math.clz32(table.length - 1) + 1;
}

/** What a reader is told of up to two copies; places in a `Float64Array` of `READER_NUMBERS`. */
export const START_A = 0;
export const STEP_A = 1;
export const LEFT_A = 2;
export const RIGHT_A = 3;
export const START_B = 4;
export const STEP_B = 5;
export const LEFT_B = 6;
export const RIGHT_B = 7;
export const WIDTH = 8;
export const WIDTH_STEP = 9;
export const READER_NUMBERS = 10;

/** Writes copy 0. */
export function writeAlone(table: Float32Array, out: Float64Array, from: number, to: number, phase: Int32Array, numbers: Float64Array): void {
  const shift = lowerBits(table);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const grow = numbers[STEP_A] | 0;
  let inc = numbers[START_A] | 0;
  let p = phase[0];
  for (let i = from; i < to; i++) {
    const k = p >>> shift;
    const s = table[k];
    out[i] = s + (p & mask) * unit * (table[k + 1] - s);
    inc = (inc + grow) | 0;
    p = (p + inc) | 0;
  }
  phase[0] = p;
}

/** Adds two copies, a and b, whose phases stand in `phase`; to the left side alone when `stereo` is false. */
export function addCopies(table: Float32Array, left: Float64Array, right: Float64Array, from: number, to: number, phase: Int32Array, a: number, b: number, numbers: Float64Array, stereo: boolean): void {
  const shift = lowerBits(table);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const growA = numbers[STEP_A] | 0;
  const growB = numbers[STEP_B] | 0;
  const leftA = numbers[LEFT_A];
  const rightA = numbers[RIGHT_A];
  const leftB = numbers[LEFT_B];
  const rightB = numbers[RIGHT_B];
  let incA = numbers[START_A] | 0;
  let incB = numbers[START_B] | 0;
  let p = phase[a];
  let q = phase[b];
  if (stereo) {
    for (let i = from; i < to; i++) {
      const k = p >>> shift;
      const m = q >>> shift;
      const s = table[k];
      const t = table[m];
      const x = s + (p & mask) * unit * (table[k + 1] - s);
      const y = t + (q & mask) * unit * (table[m + 1] - t);
      left[i] += leftA * x + leftB * y;
      right[i] += rightA * x + rightB * y;
      incA = (incA + growA) | 0;
      incB = (incB + growB) | 0;
      p = (p + incA) | 0;
      q = (q + incB) | 0;
    }
  } else {
    for (let i = from; i < to; i++) {
      const k = p >>> shift;
      const m = q >>> shift;
      const s = table[k];
      const t = table[m];
      left[i] += leftA * (s + (p & mask) * unit * (table[k + 1] - s)) + leftB * (t + (q & mask) * unit * (table[m + 1] - t));
      incA = (incA + growA) | 0;
      incB = (incB + growB) | 0;
      p = (p + incA) | 0;
      q = (q + incB) | 0;
    }
  }
  phase[b] = q;
  phase[a] = p;
}

/** Adds copy `a` as a pulse: the difference of two saws. The width, in the unit of the phase, grows by a step. */
export function addPulse(table: Float32Array, left: Float64Array, right: Float64Array, from: number, to: number, phase: Int32Array, a: number, numbers: Float64Array, stereo: boolean): void {
  const shift = lowerBits(table);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const grow = numbers[STEP_A] | 0;
  const widen = numbers[WIDTH_STEP] | 0;
  const toLeft = numbers[LEFT_A];
  const toRight = numbers[RIGHT_A];
  let inc = numbers[START_A] | 0;
  let w = numbers[WIDTH] | 0;
  let p = phase[a];
  for (let i = from; i < to; i++) {
    w = (w + widen) | 0;
    const other = (p - w) | 0;
    const k = p >>> shift;
    const m = other >>> shift;
    const s = table[k] + (p & mask) * unit * (table[k + 1] - table[k]) - table[m] - (other & mask) * unit * (table[m + 1] - table[m]);
    left[i] += toLeft * s;
    if (stereo) right[i] += toRight * s;
    inc = (inc + grow) | 0;
    p = (p + inc) | 0;
  }
  phase[a] = p;
}
