import { BLOCK } from '../../dsp/index.js';
import { StemTap, type TapSetup } from './stem-tap.js';
import type { Grit } from '../../document/index.js';
import type { UnitStart } from '../../kinds/units/index.js';

const NONE: readonly StemTap[] = [];

/** Time in which the ways of the stems forget how they began, by 150 dB and more: their filters ring at 20 Hz and above. */
export const STEMS_SETTLE_S = 1.5;

/**
 * The ways of all layers through the mix, for their stems, and what belongs to no layer by itself shared among them: the
 * stems add up to the bass.
 */
export class StemTaps {
  /** One a layer; none while nobody asks for stems. */
  taps: readonly StemTap[];
  private readonly every: readonly StemTap[];
  /** Whether they are asked for now, here or elsewhere. */
  asked = true;
  /** The bass before the whole sound's feedback, then what that adds; later what units made. */
  private readonly addedLeft = new Float64Array(BLOCK);
  private readonly addedRight = new Float64Array(BLOCK);

  /**
   * @param setups one a layer; nothing where no stems are wanted.
   * @param stereo whether the bass differs between the sides behind grit.
   */
  constructor(
    grit: Grit,
    start: UnitStart,
    setups: readonly TapSetup[],
    private readonly stereo: boolean,
  ) {
    this.taps = this.every = setups.map((setup) => new StemTap(grit, start, setup));
  }

  /** Leaves the stems off, or goes on with them: `STEMS_SETTLE_S` before they are to be right. */
  ask(asks: boolean): void {
    this.asked = asks;
    this.taps = asks ? this.every : NONE;
  }

  get wanted(): boolean {
    return this.taps.length > 0;
  }

  /** Takes the next frames of a layer in. */
  take(layer: number, left: Float64Array, right: Float64Array, silent: boolean, frames: number): void {
    if (this.wanted) this.taps[layer].take(left, right, silent, frames);
  }

  /** Takes the bass down before the whole sound's feedback. */
  beforeFeedback(bassLeft: Float64Array, bassRight: Float64Array): void {
    if (!this.wanted) return;
    this.addedLeft.set(bassLeft);
    this.addedRight.set(bassRight);
  }

  /**
   * What comes back belongs to no layer: each stem takes as much of it as its layer has of the power of late.
   */
  shareFeedback(bassLeft: Float64Array, bassRight: Float64Array, frames: number): void {
    const { taps, addedLeft, addedRight } = this;
    if (!this.wanted) return;
    for (let i = 0; i < frames; i++) {
      addedLeft[i] = bassLeft[i] - addedLeft[i];
      addedRight[i] = bassRight[i] - addedRight[i];
    }
    let whole = 0;
    for (let t = 0; t < taps.length; t++) whole += taps[t].power[0];
    for (let t = 0; t < taps.length; t++)
      taps[t].add(addedLeft, addedRight, whole > 0 ? taps[t].power[0] / whole : 1 / taps.length, frames);
  }

  /** Runs the layers' samples from `from` up to `to` through the clean path and the bands. */
  shape(from: number, to: number, numbers: Float64Array): void {
    for (let t = 0; t < this.taps.length; t++) this.taps[t].shape(from, to, numbers);
  }

  /**
   * What units made belongs to no layer by itself: of what is left between the bass and the layers' own ways through it,
   * each stem takes as much as its layer has of the highs of late, for that is what they roughen.
   */
  shareRest(bassLeft: Float64Array, bassRight: Float64Array, frames: number): void {
    const { taps, addedLeft, addedRight, stereo } = this;
    if (!this.wanted || !taps[0].shares) return;
    for (let i = 0; i < frames; i++) {
      addedLeft[i] = bassLeft[i];
      addedRight[i] = stereo ? bassRight[i] : bassLeft[i];
    }
    let whole = 0;
    for (let t = 0; t < taps.length; t++) {
      taps[t].takeOff(addedLeft, addedRight, frames);
      whole += taps[t].highs[0];
    }
    for (let t = 0; t < taps.length; t++)
      taps[t].add(addedLeft, addedRight, whole > 0 ? taps[t].highs[0] / whole : 1 / taps.length, frames);
  }

  /** Sets level, ducking and ceiling of all; see `StemTap.finish`. */
  finish(
    fromGain: number,
    toGain: number,
    share: Float64Array,
    ceiling: Float64Array | null,
    frames: number,
  ): void {
    for (let t = 0; t < this.taps.length; t++) this.taps[t].finish(fromGain, toGain, share, ceiling, frames);
  }
}
