import type { Stereo } from './recording.js';

/** Two sides of silence; one array serves both where they cannot differ. */
export function silence(frames: number, stereo: boolean): Stereo {
  const left = new Float32Array(frames);
  return { left, right: stereo ? new Float32Array(frames) : left };
}

const SEAM_S = 0.02;
/**
 * Frames at a loop's end in which it turns into what stood before its start, so that what runs free, or turns at a rate
 * of its own, has no seam where the loop comes round.
 */
export const seamFrames = (sampleRateHz: number) => Math.round(SEAM_S * sampleRateHz);

/** Turns the end of a loop into `lead`, which was heard up to its start. Where both are alike nothing changes. */
export function turnInto(loop: Float32Array, lead: Float32Array): void {
  const from = loop.length - lead.length;
  for (let i = 0; i < lead.length; i++)
    loop[from + i] += ((i + 1) / lead.length) * (lead[i] - loop[from + i]);
}

/** Keeps a block from `from` on as the samples of a loop from `at` on. */
export function keep(
  block: Float64Array,
  from: number,
  frames: number,
  audio: Float32Array,
  at: number,
): void {
  for (let i = from; i < frames; i++) audio[at + i] = block[i];
}

/** Takes a block out of the samples of a loop. */
export function take(audio: Float32Array, at: number, block: Float64Array, frames: number): void {
  for (let i = 0; i < frames; i++) block[i] = audio[at + i];
}

export function keepSum(
  a: Float64Array,
  b: Float64Array,
  from: number,
  frames: number,
  audio: Float32Array,
  at: number,
): void {
  for (let i = from; i < frames; i++) audio[at + i] = a[i] + b[i];
}
