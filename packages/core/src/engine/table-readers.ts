/**
 * Readers of wave tables with linear interpolation. A phase is a whole number of 32 bits, 2^32 to the cycle: it wraps by itself, its
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

/** Writes one copy; returns its phase after it. */
export function writeAlone(table: Float32Array, out: Float64Array, from: number, to: number, phase: number, start: number, step: number): number {
  const shift = lowerBits(table);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const grow = step | 0;
  let inc = start | 0;
  let p = phase | 0;
  for (let i = from; i < to; i++) {
    const k = p >>> shift;
    const s = table[k];
    out[i] = s + (p & mask) * unit * (table[k + 1] - s);
    inc = (inc + grow) | 0;
    p = (p + inc) | 0;
  }
  return p;
}

/** Adds two copies, a and b, whose phases stand in `phase`; to the left side alone when `stereo` is false. */
export function addCopies(
  table: Float32Array, left: Float64Array, right: Float64Array, from: number, to: number, phase: Int32Array, a: number, b: number,
  startA: number, stepA: number, startB: number, stepB: number, leftA: number, rightA: number, leftB: number, rightB: number, stereo: boolean,
): void {
  const shift = lowerBits(table);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const growA = stepA | 0;
  const growB = stepB | 0;
  let incA = startA | 0;
  let incB = startB | 0;
  let p = phase[a] | 0;
  let q = phase[b] | 0;
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

/** Adds a pulse as the difference of two saws; returns its phase after it. The width, in the unit of the phase, grows by a step. */
export function addPulse(
  table: Float32Array, left: Float64Array, right: Float64Array, from: number, to: number, phase: number, start: number, step: number,
  width: number, widthStep: number, toLeft: number, toRight: number, stereo: boolean,
): number {
  const shift = lowerBits(table);
  const mask = (1 << shift) - 1;
  const unit = 1 / (1 << shift);
  const grow = step | 0;
  const widen = widthStep | 0;
  let inc = start | 0;
  let w = width | 0;
  let p = phase | 0;
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
  return p;
}
