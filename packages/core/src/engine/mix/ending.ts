import { BETWEEN_REACH, BLOCK, Ceiling, DelayBank, TruePeakFollower } from '../../dsp/index.js';

/** The blocks of a mix that the ceiling holds. */
export interface Ended {
  readonly bassLeft: Float64Array;
  readonly bassRight: Float64Array;
  readonly kickLeft: Float64Array;
  readonly kickRight: Float64Array;
  readonly backLeft: Float64Array;
  readonly backRight: Float64Array;
  /** The bass in mono before ducking: only held back. */
  readonly bassBefore: Float64Array;
}

/** Where left and right differ, and whether there are backing parts. */
interface Sides {
  readonly stereo: boolean;
  readonly kickStereo: boolean;
  readonly backing: boolean;
}

/**
 * The end of the mix: the true peaks of the sound, and of what is heard with the backing parts, are held under the
 * ceiling, all alike; everything waits until it has looked ahead.
 */
export class Ending {
  readonly delayFrames: number;
  /** The gain of the ceiling, frame by frame, of the last step in which it acted. */
  readonly gain = new Float64Array(BLOCK);
  private readonly peaks = new Float64Array(BLOCK);
  /** The ceiling, and the greatest true peak of the step. */
  private readonly levels = new Float64Array(2);
  /** Left and right of the sound, then of what is heard with the backing parts. */
  private readonly followers = Array.from({ length: 4 }, () => new TruePeakFollower(BLOCK));
  private readonly ceiling: Ceiling;
  private readonly waits: DelayBank;
  private readonly sumLeft = new Float64Array(BLOCK);
  private readonly sumRight = new Float64Array(BLOCK);

  constructor(
    private readonly blocks: Ended,
    sampleRateHz: number,
    private readonly sides: Sides,
  ) {
    this.ceiling = new Ceiling(sampleRateHz);
    this.delayFrames = this.ceiling.delayFrames + BETWEEN_REACH;
    this.waits = new DelayBank(this.delayFrames, [
      blocks.bassLeft,
      blocks.kickLeft,
      blocks.bassBefore,
      ...(sides.stereo ? [blocks.bassRight] : []),
      ...(sides.kickStereo ? [blocks.kickRight] : []),
      ...(sides.backing ? [blocks.backLeft, blocks.backRight] : []),
    ]);
  }

  copyFrom(other: Ending): void {
    this.waits.copyFrom(other.waits);
    this.ceiling.copyFrom(other.ceiling);
    this.followers.forEach((follower, f) => {
      follower.copyFrom(other.followers[f]);
    });
  }

  /** The loop comes round, `late` frames after it began: what was before is not joined to what comes. */
  cut(late: number): void {
    for (const follower of this.followers) follower.cut(late);
  }

  /** Holds the next `frames` of the blocks under the ceiling `gains[at]`; says whether it acted. */
  process(gains: Float64Array, at: number, frames: number): boolean {
    this.levels[0] = gains[at];
    this.followPeaks(frames);
    const acts = this.ceiling.gains(this.peaks, this.gain, frames);
    this.hold(acts, frames);
    return acts;
  }

  /** Holds the next `frames` of the blocks by the gain of the ceiling; nothing but waits where it does not act. */
  private hold(acts: boolean, frames: number): void {
    const { blocks, sides, gain } = this;
    const { bassLeft, bassRight, kickLeft, kickRight, backLeft, backRight } = blocks;
    this.waits.process(frames);
    if (!acts) return;
    times(bassLeft, gain, frames);
    if (sides.stereo) times(bassRight, gain, frames);
    times(kickLeft, gain, frames);
    if (sides.kickStereo) times(kickRight, gain, frames);
    if (sides.backing) {
      times(backLeft, gain, frames);
      times(backRight, gain, frames);
    }
  }

  /** Tells the ceiling the true peaks. */
  private followPeaks(frames: number): void {
    const { blocks, sides, peaks, levels, followers, sumLeft, sumRight } = this;
    const { bassLeft, bassRight, kickLeft, kickRight, backLeft, backRight } = blocks;
    for (let i = 0; i < frames; i++) peaks[i] = 0;
    levels[1] = 0;
    followers[0].process(bassLeft, kickLeft, frames, peaks, levels);
    if (sides.stereo || sides.kickStereo || sides.backing)
      followers[1].process(bassRight, kickRight, frames, peaks, levels);
    if (sides.backing) {
      for (let i = 0; i < frames; i++) {
        sumLeft[i] = bassLeft[i] + kickLeft[i];
        sumRight[i] = bassRight[i] + kickRight[i];
      }
      followers[2].process(sumLeft, backLeft, frames, peaks, levels);
      followers[3].process(sumRight, backRight, frames, peaks, levels);
    }
    this.ceiling.peak[0] = levels[1];
    this.ceiling.peak[1] = levels[0];
  }
}

function times(samples: Float64Array, gains: Float64Array, frames: number): void {
  for (let i = 0; i < frames; i++) samples[i] *= gains[i];
}
