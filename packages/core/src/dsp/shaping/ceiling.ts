/** Frames by which a look-ahead makes a ceiling late. */
export const ceilingDelay = (lookAheadS: number, sampleRateHz: number) =>
  Math.max(8, Math.round(lookAheadS * sampleRateHz)) - 1;

/**
 * Look-ahead ceiling: no sample of what it is given stands above the ceiling afterwards. The gain that a peak
 * asks for is
 * held over the look-ahead (a sliding minimum) and smoothed by a running mean of the same length, so that it
 * has
 * arrived when the peak leaves the delay; it returns by a one-pole, of 60 ms unless set. Design: Giannoulis, Massberg and
 * Reiss,
 * Digital dynamic range compressor design (2012), section on look-ahead; the running-mean form is common
 * practice.
 *
 * The gain is made from the loudest of the signals that share it, so that stems under one ceiling still add
 * up.
 */
export class Ceiling {
  /** Frames by which the signals must be delayed before the gains are applied. */
  readonly delayFrames: number;
  private readonly wanted: Float64Array;
  private readonly held: Float64Array;
  /**
   * Write place, running sum, returning gain, frames since anything stood above the ceiling, frames at gain
   * 1, least wanted gain in reach.
   */
  private readonly state: Float64Array;
  private back = 0;
  /** What the next call is told: the greatest magnitude of its block, and the ceiling as an amplitude. */
  readonly peak = Float64Array.of(0, 1);

  /** @param lookAheadS how far it looks ahead, in seconds. */
  constructor(
    private readonly sampleRateHz: number,
    lookAheadS = 0.001,
  ) {
    this.delayFrames = ceilingDelay(lookAheadS, sampleRateHz);
    const n = this.delayFrames + 1;
    this.wanted = new Float64Array(n).fill(1);
    this.held = new Float64Array(n).fill(1);
    this.state = Float64Array.of(0, n, 1, n, n, 1);
    this.returnIn(0.06);
  }

  /** Sets the time constant by which the gain comes back, in seconds. */
  returnIn(seconds: number): void {
    this.back = 1 - Math.exp(-1 / (seconds * this.sampleRateHz));
  }

  copyFrom(other: Ceiling): void {
    this.wanted.set(other.wanted);
    this.held.set(other.held);
    this.state.set(other.state);
  }

  /**
   * Reads the magnitude of the sum at each frame and writes the gain for the frame that lies `delayFrames`
   * back; `peak` has been set
   * before. Returns false, and writes nothing, when every gain is 1.
   */
  gains(peaks: Float64Array, out: Float64Array, frames: number): boolean {
    const { wanted, held, state } = this;
    const highest = this.peak[0];
    const ceiling = this.peak[1];
    const n = wanted.length;
    if (highest <= ceiling && state[3] >= n && state[4] >= n) return false;
    let at = state[0];
    let sum = state[1];
    let level = state[2];
    let quiet = state[3];
    let ones = state[4];
    let least = state[5];
    for (let i = 0; i < frames; i++) {
      const peak = peaks[i];
      const want = peak > ceiling ? ceiling / peak : 1;
      quiet = want < 1 ? 0 : quiet + 1;
      const leaves = wanted[at];
      wanted[at] = want;
      if (want <= least) least = want;
      else if (leaves === least && least < 1) {
        // The least goes out of reach: it is looked for anew.
        least = 1;
        for (let j = 0; j < n; j++) if (wanted[j] < least) least = wanted[j];
      }
      level = least < level ? least : level + (least - level) * this.back;
      if (level > 0.999999) level = 1;
      sum += level - held[at];
      held[at] = level;
      ones = level === 1 ? ones + 1 : 0;
      // A running sum gathers rounding errors; where its value is known it is set.
      if (ones >= n) sum = n;
      at = at + 1 === n ? 0 : at + 1;
      const gain = sum / n;
      out[i] = gain > 1 ? 1 : gain;
    }
    state[0] = at;
    state[1] = sum;
    state[2] = level;
    state[3] = quiet;
    state[4] = ones;
    state[5] = least;
    return true;
  }
}
