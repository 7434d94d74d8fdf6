import { besselI0 } from '../transforms/windows.js';

/** Taps of the interpolation, and places between two frames for which they are tabled. */
const TAPS = 24;
const FINE = 256;
/** Cutoffs for which there is a table, as shares of the recording's own: one every quarter octave. */
const CUTOFFS = 17;

const kernels: (Float64Array | undefined)[] = [];

/** Windowed sincs for a cutoff, one row of taps for each place between two frames. */
function kernel(index: number): Float64Array {
  const found = kernels[index];
  if (found) return found;
  const cutoff = 0.92 * 2 ** (-index / 4);
  const beta = 8;
  const table = new Float64Array((FINE + 1) * TAPS);
  for (let f = 0; f <= FINE; f++) {
    let sum = 0;
    for (let k = 0; k < TAPS; k++) {
      const t = k - TAPS / 2 + 1 - f / FINE;
      const x = t / (TAPS / 2);
      const sinc = t === 0 ? cutoff : Math.sin(Math.PI * cutoff * t) / (Math.PI * t);
      sum += table[f * TAPS + k] =
        Math.abs(x) >= 1 ? 0 : (sinc * besselI0(beta * Math.sqrt(1 - x * x))) / besselI0(beta);
    }
    for (let k = 0; k < TAPS; k++) table[f * TAPS + k] /= sum;
  }
  return (kernels[index] = table);
}

/** Makes the table for a speed beforehand; the block path then makes none. */
export function prepareSpeed(speed: number): void {
  kernel(kernelFor(speed));
}

function kernelFor(speed: number): number {
  return speed <= 1 ? 0 : Math.min(CUTOFFS - 1, Math.ceil(4 * Math.log2(speed)));
}

/** Where a reader of recordings finds its numbers; places in a `Float64Array`. */
export const READ_PLACE = 0;
/** Frames of the recording for each frame that is written, at the start and the end of the step. */
export const READ_SPEED_0 = 1;
export const READ_SPEED_1 = 2;
/** Loop in frames; no loop where its end is 0. */
export const READ_LOOP_FROM = 3;
export const READ_LOOP_TO = 4;
export const READ_NUMBERS = 5;

/**
 * Reads a recording at any speed, with 24 taps of a Kaiser-windowed sinc whose cutoff falls with the speed:
 * Smith, Digital audio resampling (2002).
 * Writes the samples from `from` up to `to`; frames outside the recording are 0. The place moves on in
 * `numbers` only where `moves` is set, so
 * that a second channel can be read from the same one.
 */
export function readRecording(
  recording: Float32Array,
  out: Float64Array,
  from: number,
  to: number,
  numbers: Float64Array,
  moves: boolean,
): void {
  let place = numbers[READ_PLACE];
  let speed = numbers[READ_SPEED_0];
  const grow = (numbers[READ_SPEED_1] - speed) / (to - from);
  const loopFrom = numbers[READ_LOOP_FROM];
  const loopTo = numbers[READ_LOOP_TO];
  const loops = loopTo > loopFrom;
  const table = kernel(kernelFor(speed > numbers[READ_SPEED_1] ? speed : numbers[READ_SPEED_1]));
  const length = recording.length;
  for (let i = from; i < to; i++) {
    const whole = Math.floor(place);
    const row = Math.round((place - whole) * FINE) * TAPS;
    const first = whole - TAPS / 2 + 1;
    let sum = 0;
    if (first >= 0 && first + TAPS <= (loops ? loopTo : length)) {
      for (let k = 0; k < TAPS; k++) sum += table[row + k] * recording[first + k];
    } else {
      for (let k = 0; k < TAPS; k++) {
        let at = first + k;
        if (loops && at >= loopTo) at = loopFrom + ((at - loopFrom) % (loopTo - loopFrom));
        if (at >= 0 && at < length) sum += table[row + k] * recording[at];
      }
    }
    out[i] = sum;
    speed += grow;
    place += speed;
    if (loops && place >= loopTo) place -= loopTo - loopFrom;
  }
  if (moves) numbers[READ_PLACE] = place;
}
