import { rebuilds } from '../../../schema/rebuild.js';
import { number, type NumberNode } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';

/** How fast a unit moves by itself; it stands still at 0. */
export const sweepRate = (def: number) =>
  number('Rate', 'Hz', 0, 12, def, 'Turns in a second; 0 stands still.', { ...movable, step: 0.01 });
export const spreadField = (def: number) =>
  number('Spread', '%', 0, 100, def, 'How far apart left and right move.', { ...movable, step: 1 });
/** A number that makes two sides of one as soon as it is not 0. */
export const widening = (node: NumberNode<true>) =>
  rebuilds('instrument', node, (value: number) => value !== 0);
export const delayField = (least: number, most: number, def: number) =>
  number('Delay', 'ms', least, most, def, 'How late it comes.', { ...log, ...movable });

/** A phase that goes round by itself, and lines of numbers that run evenly from step to step. */
export class Sweep {
  /** Turns, 0 to 1. */
  readonly phase = new Float64Array(1);

  copyFrom(other: Sweep): void {
    this.phase.set(other.phase);
  }

  /** Moves on by `frames` at `rates[at]` turns a second. */
  turn(frames: number, rates: Float64Array, at: number, sampleRateHz: number): void {
    const next = this.phase[0] + (rates[at] * frames) / sampleRateHz;
    this.phase[0] = next - Math.floor(next);
  }
}

/** Runs `line` evenly from `ends[at]`, which it was at before, to `wanted[at]`, and takes that down. */
export function runLine(
  line: Float64Array,
  from: number,
  to: number,
  ends: Float64Array,
  wanted: Float64Array,
  at: number,
): void {
  let value = ends[at] === ends[at] ? ends[at] : wanted[at];
  const step = (wanted[at] - value) / (to - from);
  for (let i = from; i < to; i++) {
    value += step;
    line[i] = value;
  }
  ends[at] = wanted[at];
}
