/**
 * Readers of wave tables with linear interpolation. Numbers that are not whole come in a typed array, since
 * the engine that runs this
 * would put each such argument on the heap. A phase is a whole number of 32 bits, 2^32 to the cycle: it wraps
 * by itself, its
 * upper bits are the place in the table and its lower bits the way to the next value. Tables have 2^n + 1
 * values. Increments
 * are given as numbers in the same unit with the step by which they grow each frame; phases never drift,
 * since each control step begins
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
export const READER_NUMBERS = 13;

/** Writes copy 0. */
export function writeAlone(
  table: Float32Array,
  out: Float64Array,
  from: number,
  to: number,
  phase: Int32Array,
  numbers: Float64Array,
): void {
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
export function addCopies(
  table: Float32Array,
  left: Float64Array,
  right: Float64Array,
  from: number,
  to: number,
  phase: Int32Array,
  a: number,
  b: number,
  numbers: Float64Array,
  stereo: boolean,
): void {
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
      left[i] +=
        leftA * (s + (p & mask) * unit * (table[k + 1] - s)) +
        leftB * (t + (q & mask) * unit * (table[m + 1] - t));
      incA = (incA + growA) | 0;
      incB = (incB + growB) | 0;
      p = (p + incA) | 0;
      q = (q + incB) | 0;
    }
  }
  phase[b] = q;
  phase[a] = p;
}

/**
 * Adds copy `a` as a pulse: the difference of two saws. The width, in the unit of the phase, grows by a step.
 */
export function addPulse(
  table: Float32Array,
  left: Float64Array,
  right: Float64Array,
  from: number,
  to: number,
  phase: Int32Array,
  a: number,
  numbers: Float64Array,
  stereo: boolean,
): void {
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
    const s =
      table[k] +
      (p & mask) * unit * (table[k + 1] - table[k]) -
      table[m] -
      (other & mask) * unit * (table[m + 1] - table[m]);
    left[i] += toLeft * s;
    if (stereo) right[i] += toRight * s;
    inc = (inc + grow) | 0;
    p = (p + inc) | 0;
  }
  phase[a] = p;
}

/** Weight of the second of two tables at the start of the step, and its growth each frame. */
export const MIX = 10;
export const MIX_STEP = 11;
/** 1 where a steered tone's increment is scaled from sample to sample. */
export const SWINGS = 12;

/** Writes copy 0, read from two tables of equal length and mixed on the way. */
export function writeMixed(
  tableA: Float32Array,
  tableB: Float32Array,
  out: Float64Array,
  from: number,
  to: number,
  phase: Int32Array,
  numbers: Float64Array,
): void {
  const shift = lowerBits(tableA);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const grow = numbers[STEP_A] | 0;
  const mixStep = numbers[MIX_STEP];
  let inc = numbers[START_A] | 0;
  let w = numbers[MIX];
  let p = phase[0];
  for (let i = from; i < to; i++) {
    w += mixStep;
    const k = p >>> shift;
    const part = (p & mask) * unit;
    const s = tableA[k] + part * (tableA[k + 1] - tableA[k]);
    const t = tableB[k] + part * (tableB[k + 1] - tableB[k]);
    out[i] = s + w * (t - s);
    inc = (inc + grow) | 0;
    p = (p + inc) | 0;
  }
  phase[0] = p;
}

/**
 * Adds two copies, a and b, read from two tables of equal length and mixed on the way; to the left side alone
 * when `stereo` is false.
 */
export function addMixed(
  tableA: Float32Array,
  tableB: Float32Array,
  left: Float64Array,
  right: Float64Array,
  from: number,
  to: number,
  phase: Int32Array,
  a: number,
  b: number,
  numbers: Float64Array,
  stereo: boolean,
): void {
  const shift = lowerBits(tableA);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const growA = numbers[STEP_A] | 0;
  const growB = numbers[STEP_B] | 0;
  const leftA = numbers[LEFT_A];
  const rightA = numbers[RIGHT_A];
  const leftB = numbers[LEFT_B];
  const rightB = numbers[RIGHT_B];
  const mixStep = numbers[MIX_STEP];
  let incA = numbers[START_A] | 0;
  let incB = numbers[START_B] | 0;
  let w = numbers[MIX];
  let p = phase[a];
  let q = phase[b];
  for (let i = from; i < to; i++) {
    w += mixStep;
    const k = p >>> shift;
    const m = q >>> shift;
    const partA = (p & mask) * unit;
    const partB = (q & mask) * unit;
    const s = tableA[k];
    const t = tableA[m];
    const x = s + partA * (tableA[k + 1] - s);
    const y = t + partB * (tableA[m + 1] - t);
    const u = tableB[k];
    const v = tableB[m];
    const xx = x + w * (u + partA * (tableB[k + 1] - u) - x);
    const yy = y + w * (v + partB * (tableB[m + 1] - v) - y);
    left[i] += leftA * xx + leftB * yy;
    if (stereo) right[i] += rightA * xx + rightB * yy;
    incA = (incA + growA) | 0;
    incB = (incB + growB) | 0;
    p = (p + incA) | 0;
    q = (q + incB) | 0;
  }
  phase[b] = q;
  phase[a] = p;
}

/**
 * Adds copy `a` at twice the rate, its phase displaced by `displace` (cycles) and its increment scaled by 1 +
 * `swing`, both one value a sample. With
 * `width` not 0 the same wave, later by so much, is taken off: a pulse.
 */
export function addSteered(
  tableA: Float32Array,
  tableB: Float32Array,
  out: Float64Array,
  from: number,
  to: number,
  phase: Int32Array,
  a: number,
  numbers: Float64Array,
  displace: Float64Array,
  swing: Float64Array,
): void {
  const shift = lowerBits(tableA);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const grow = numbers[STEP_A];
  const gain = numbers[LEFT_A];
  const mixStep = numbers[MIX_STEP];
  const width = numbers[WIDTH] | 0;
  const swings = numbers[SWINGS] === 1;
  let inc = numbers[START_A];
  let whole = inc | 0;
  const wholeStep = grow | 0;
  let w = numbers[MIX];
  let p = phase[a];
  for (let i = from; i < to; i++) {
    w += mixStep;
    // In steps of 2^-24 cycles, which stay within whole numbers of 32 bits.
    const q = (p + (((16777216 * displace[i]) | 0) << 8)) | 0;
    const k = q >>> shift;
    const part = (q & mask) * unit;
    const s = tableA[k] + part * (tableA[k + 1] - tableA[k]);
    const t = tableB[k] + part * (tableB[k + 1] - tableB[k]);
    let x = s + w * (t - s);
    if (width !== 0) {
      const other = (q - width) | 0;
      const m = other >>> shift;
      x -= tableA[m] + (other & mask) * unit * (tableA[m + 1] - tableA[m]);
    }
    out[i] += gain * x;
    if (swings) {
      inc += grow;
      p = (p + inc * (1 + swing[i])) | 0;
    } else {
      whole = (whole + wholeStep) | 0;
      p = (p + whole) | 0;
    }
  }
  phase[a] = p;
}

/**
 * Value of two mixed tables at a phase that stands in `at[0]` (as a whole number); written to `out[place]`.
 */
export function readAt(
  tableA: Float32Array,
  tableB: Float32Array,
  weight: Float64Array,
  at: Int32Array,
  width: number,
  out: Float64Array,
  place: number,
): void {
  const shift = lowerBits(tableA);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const w = weight[1];
  let p = at[0];
  let sum = 0;
  for (let turn = 0; turn < 2; turn++) {
    const k = p >>> shift;
    const part = (p & mask) * unit;
    const s = tableA[k] + part * (tableA[k + 1] - tableA[k]);
    const t = tableB[k] + part * (tableB[k + 1] - tableB[k]);
    sum += turn === 0 ? s + w * (t - s) : -s;
    if (width === 0) break;
    p = (p - width) | 0;
  }
  out[place] = sum;
}
