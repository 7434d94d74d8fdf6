import { placesOf, toneShape, type Tone } from '../../document/index.js';
import type { Assets } from '../base/recording.js';

/**
 * Where the numbers of a tone that movers may reach stand in the layer's bank, from the tone's first; those
 * of a kind under its name.
 */
export const TONE = placesOf(toneShape);

/** What a tone is told as a note begins; places in a `Float64Array`. */
export const NOTE_PHASE = 0;
export const NOTE_HZ = 1;
/** Frequency at which the note will stand once it has glided and dropped. */
export const NOTE_TARGET_HZ = 2;
export const NOTE_PITCH = 3;
export const NOTE_VELOCITY = 4;
/** Seconds by which what the tone gives comes late; a cycle begins so much further on. */
export const NOTE_LATE_S = 5;
export const NOTE_NUMBERS = 6;

/** What tones are made with. */
export interface ToneContext {
  readonly sampleRateHz: number;
  readonly seed: number;
  readonly stream: number;
  readonly a4Hz: number;
  readonly assets: Assets;
}

/**
 * One generator of a voice. `values` is the layer's bank and `base` the tone's first place in it; `pitch[0]`
 * is the frequency in hertz at the end of
 * the step. Frequencies and numbers run evenly through a step.
 */
export interface ToneGenerator {
  /** Takes other settings of the same structure. */
  set(tone: Tone, context: ToneContext): void;
  /** Goes on from where a tone of the same layer stands; one of another kind is left aside. */
  copyFrom(other: ToneGenerator): void;
  start(note: Float64Array, values: Float64Array, base: number): void;
  /** Whether it has a phase that can begin anew. */
  readonly hasPhase: boolean;
  /**
   * Begins its phase anew as `start` would, and nothing else: what it sounds, its level and its envelopes go
   * on. What has no phase stays as it is.
   */
  rephase(note: Float64Array, values: Float64Array, base: number): void;
  release(): void;
  /** Level of what rings on after the note by itself; 0 for tones that end with it. */
  readonly ringing: number;
  /** Writes the samples from `from` up to `to` of both sides; of the left one only when `stereo` is false. */
  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    pitch: Float64Array,
    values: Float64Array,
    base: number,
    stereo: boolean,
  ): void;
}
