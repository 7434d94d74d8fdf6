import {
  BLOCK,
  CrossoverSide,
  DelayLine,
  SOFT_CLIP_DELAY,
  SoftClipShare,
  SoftClipTwice,
  SteepAllpass,
  SteepHigh,
} from '../../dsp/index.js';

/**
 * What a stage does above the clean path: clip; take a layer's share of what the clip does to the sum it is
 * in; or wait as long as that takes.
 */
export type ClipWay = 'clips' | 'shares' | 'waits';

/**
 * What every stage of a step is told: warped crossover, drive, and level after the clip, each at its start
 * and its end.
 */
export interface GritNumbers {
  readonly crossover: Float64Array;
  readonly drive: Float64Array;
  readonly after: Float64Array;
  /** How far the clip is there, 0 to 1, where it may be switched; null where it stays. */
  readonly there: Float64Array | null;
  /** Drive and level after the clip frame by frame, each where movers carry it; null where it runs evenly. */
  readonly drives: Float64Array | null;
  readonly afters: Float64Array | null;
}

const UNITY = Float64Array.of(1, 1);

/** One side above the clean path. */
class Side {
  /** By what the clip multiplied; see `SoftClipTwice`. */
  readonly slopes = new Float64Array(2 * BLOCK);
  private readonly high = new CrossoverSide('high');
  private readonly edge = new SteepHigh();
  private readonly clip = new SoftClipTwice();
  private readonly share = new SoftClipShare(BLOCK);
  private readonly wait = new DelayLine(SOFT_CLIP_DELAY);
  private readonly dry = new Float64Array(BLOCK);

  copyFrom(other: Side): void {
    this.high.copyFrom(other.high);
    this.edge.copyFrom(other.edge);
    this.clip.copyFrom(other.clip);
    this.share.copyFrom(other.share);
    this.wait.copyFrom(other.wait);
  }

  /** Crossover, clip and the level after it. */
  shape(
    samples: Float64Array,
    frames: number,
    { crossover, drive, after, there, drives, afters }: GritNumbers,
    way: ClipWay,
    cleanPath: boolean,
    slopes: Float64Array,
  ): void {
    if (cleanPath) this.high.process(samples, frames, crossover);
    if (way === 'waits') {
      this.wait.process(samples, frames);
      return;
    }
    const { dry } = this;
    if (there) {
      for (let i = 0; i < frames; i++) dry[i] = samples[i];
      this.wait.process(dry, frames);
    }
    if (drives) for (let i = 0; i < frames; i++) samples[i] *= drives[i];
    const gains = drives ? UNITY : drive;
    if (way === 'clips') this.clip.process(samples, frames, gains, this.slopes);
    else this.share.process(samples, frames, gains, slopes);
    if (afters) for (let i = 0; i < frames; i++) samples[i] *= afters[i];
    else ramp(samples, frames, after);
    if (!there) return;
    const step = (there[1] - there[0]) / frames;
    let share = there[0];
    for (let i = 0; i < frames; i++) {
      share += step;
      samples[i] = dry[i] + share * (samples[i] - dry[i]);
    }
  }

  /**
   * Takes the crossover's high side of Sub off again, cuts what is left below the clean path, and adds what
   * goes past.
   */
  join(
    samples: Float64Array,
    frames: number,
    crossover: Float64Array,
    subHigh: Float64Array,
    past: Float64Array,
    sub: boolean,
  ): void {
    if (sub) for (let i = 0; i < frames; i++) samples[i] -= subHigh[i];
    this.edge.process(samples, frames, crossover);
    if (sub) for (let i = 0; i < frames; i++) samples[i] += past[i];
  }
}

/**
 * Frames that Sub's way past the clip rings on after Sub is silent, as a bound: the allpass falls by 120 dB
 * in them at 40 Hz and 96 kHz.
 */
const RINGS_ON = 65536;

/**
 * Clean path and clip: of the bass, or of a layer by itself for its stem. Below the clean path only Sub
 * sounds, in mono: everything goes through a Linkwitz–Riley high-pass, the
 * clip, and the steep edge, which takes out what the clip made below it. Past all that goes Sub in mono
 * through the allpass that is in step with both, less what of it went the other way
 * untouched: so the sum of what nothing clips is flat in magnitude, exactly, whatever the edge.
 */
export class GritStage {
  private readonly left = new Side();
  private readonly right = new Side();
  private readonly subHigh = new Float64Array(BLOCK);
  private readonly high = new CrossoverSide('high');
  private readonly past = new SteepAllpass();
  private readonly wait = new DelayLine(SOFT_CLIP_DELAY);
  /** Frames since Sub was heard. */
  private readonly quiet = Float64Array.of(RINGS_ON);

  constructor(
    private readonly way: ClipWay,
    private readonly cleanPath: boolean,
  ) {}

  copyFrom(other: GritStage): void {
    this.left.copyFrom(other.left);
    this.right.copyFrom(other.right);
    this.high.copyFrom(other.high);
    this.past.copyFrom(other.past);
    this.wait.copyFrom(other.wait);
    this.quiet.set(other.quiet);
  }

  get slopesLeft(): Float64Array {
    return this.left.slopes;
  }

  get slopesRight(): Float64Array {
    return this.right.slopes;
  }

  /**
   * Shapes `frames` samples of both sides in place (of the left alone without `stereo`). `clean` is Sub in
   * mono, and is used up; `sub` says whether there is any. `slopes` are those of the sum that
   * a stage shares in.
   */
  process(
    left: Float64Array,
    right: Float64Array,
    stereo: boolean,
    clean: Float64Array,
    sub: boolean,
    frames: number,
    numbers: GritNumbers,
    slopes: GritStage = this,
  ): void {
    const { cleanPath, way, subHigh } = this;
    this.left.shape(left, frames, numbers, way, cleanPath, slopes.slopesLeft);
    if (stereo) this.right.shape(right, frames, numbers, way, cleanPath, slopes.slopesRight);
    if (!cleanPath) return;
    this.quiet[0] = sub ? 0 : this.quiet[0] + frames;
    const heard = this.quiet[0] < RINGS_ON;
    if (heard) {
      if (!sub) for (let i = 0; i < frames; i++) clean[i] = 0;
      this.wait.process(clean, frames);
      for (let i = 0; i < frames; i++) subHigh[i] = clean[i];
      this.high.process(subHigh, frames, numbers.crossover);
      this.past.process(clean, frames, numbers.crossover);
    }
    this.left.join(left, frames, numbers.crossover, subHigh, clean, heard);
    if (stereo) this.right.join(right, frames, numbers.crossover, subHigh, clean, heard);
  }
}

/** Multiplies by a gain that runs evenly from `gains[0]` to `gains[1]`. */
function ramp(samples: Float64Array, frames: number, gains: Float64Array): void {
  let gain = gains[0];
  if (gain === 1 && gains[1] === 1) return;
  const step = (gains[1] - gain) / frames;
  for (let i = 0; i < frames; i++) {
    gain += step;
    samples[i] *= gain;
  }
}
