import { kaiser } from '../transforms/windows.js';

/** Samples on each side from which the signal between two of them is made. */
export const BETWEEN_REACH = 16;

/** Shape of the Kaiser window. */
const BETA = 9;

/** Places tabled for each sample. */
const PLACES = 8;
const WINDOW = kaiser(2 * BETWEEN_REACH * PLACES + 1, BETA);

/**
 * Taps for a place after a sample, p eighths of the way to the next: the k-th weighs the sample
 * `BETWEEN_REACH` − 1 − k before. A windowed sinc of 32 samples.
 */
function tapsAt(p: number): Float64Array {
  const taps = Float64Array.from({ length: 2 * BETWEEN_REACH }, (_, k) => {
    const t = k - BETWEEN_REACH + 1 - p / PLACES;
    return (Math.sin(Math.PI * t) / (Math.PI * t)) * WINDOW[(t + BETWEEN_REACH) * PLACES];
  });
  const sum = taps.reduce((all, tap) => all + tap, 0);
  return taps.map((tap) => tap / sum);
}

/**
 * Taps for the three places between two samples: four times oversampled, as ITU-R BS.1770-5, Annex 2 asks
 * for. The Kaiser window is the one that ffmpeg's resampler takes by itself (its manual,
 * `filter_size` and `kaiser_beta`), so that the two agree up to half the rate.
 */
export const BETWEEN_TAPS: readonly Float64Array[] = [2, 4, 6].map(tapsAt);

const [A, B, C] = BETWEEN_TAPS;
/**
 * A and C are each other's mirror, B its own: their sum and their difference weigh the sums and the differences of
 * samples at the same distance from the middle.
 */
const SUMS = A.subarray(0, BETWEEN_REACH).map((tap, k) => 0.5 * (tap + C[k]));
const DIFFERENCES = A.subarray(0, BETWEEN_REACH).map((tap, k) => 0.5 * (tap - C[k]));
/** Four more places between those, for what comes near the ceiling: a meter may look at any of them. */
const FINE_TAPS = [1, 3, 5, 7].map(tapsAt);
/** What counts as near. */
const NEAR = 0.92;
const WIDTH = 2 * BETWEEN_REACH;
/**
 * By how much of its bend a signal may stand out between two samples: a parabola does by an eighth; what lies
 * near half the sample rate, by less than this.
 */
const STANDS_OUT = 0.5;

/**
 * Follows the true peak of a signal block by block, `BETWEEN_REACH` frames late: for a sample, the greatest
 * magnitude from the sample before it to the one after.
 */
export class TruePeakFollower {
  /** The last samples of the block before, then this block. */
  private readonly signal: Float64Array;
  /** Greatest magnitude between the last two samples. */
  private readonly last = new Float64Array(1);
  /** Where in `signal` the first sample after the last cut stands; 0 where that is out of reach. */
  private readonly cutAt = new Int32Array(1);

  /** @param most frames of the longest block. */
  constructor(most: number) {
    this.signal = new Float64Array(WIDTH + most);
  }

  copyFrom(other: TruePeakFollower): void {
    this.signal.set(other.signal);
    this.last.set(other.last);
    this.cutAt.set(other.cutAt);
  }

  /**
   * In `ahead` frames from now a file may be cut, as at the ends of a loop: what stands out at its ends,
   * where the signal does not go on, counts as well.
   */
  cut(ahead: number): void {
    this.cutAt[0] = WIDTH + ahead;
  }

  /**
   * Greatest magnitude after sample `at` where the signal ends, or begins, at the cut: with silence beyond
   * it, and mirrored in it as ffmpeg's resampler has it (about the first sample, and about the end of the
   * last).
   */
  private besideCut(at: number): number {
    const { signal } = this;
    const cut = this.cutAt[0];
    const from = at - BETWEEN_REACH + 1;
    const begun = at >= cut;
    let most = 0;
    for (const taps of BETWEEN_TAPS) {
      let own = 0;
      let mirrored = 0;
      for (let k = 0; k < WIDTH; k++) {
        const place = from + k;
        if (begun === place >= cut) own += taps[k] * signal[place];
        else mirrored += taps[k] * signal[begun ? 2 * cut - place : 2 * cut - 1 - place];
      }
      most = Math.max(most, Math.abs(own), Math.abs(own + mirrored));
    }
    return most;
  }

  /** Greatest magnitude at the four places between those already looked at, from samples `from` on. */
  private finely(from: number): number {
    const { signal } = this;
    let most = 0;
    for (let p = 0; p < 4; p++) {
      const taps = FINE_TAPS[p];
      let sum = 0;
      for (let k = 0; k < WIDTH; k++) sum += taps[k] * signal[from + k];
      if (sum > most) most = sum;
      else if (-sum > most) most = -sum;
    }
    return most;
  }

  /**
   * Takes the sum of two blocks in, and raises `peaks` to its true peaks. `levels[0]` is the level that
   * matters: where neither the samples nor what may lie between them come up to it, samples alone are looked
   * at. `levels[1]` is
   * raised to the greatest value found.
   */
  process(a: Float64Array, b: Float64Array, frames: number, peaks: Float64Array, levels: Float64Array): void {
    const { signal } = this;
    const matters = levels[0];
    let highest = levels[1];
    const cutAt = this.cutAt[0];
    let before = this.last[0];
    for (let i = 0; i < frames; i++) signal[WIDTH + i] = a[i] + b[i];
    for (let i = 0; i < frames; i++) {
      // The sample itself, its neighbours, and how much the signal bends there.
      const at = i + BETWEEN_REACH;
      const s = signal[at];
      const next = signal[at + 1];
      const size = s < 0 ? -s : s;
      const other = next < 0 ? -next : next;
      const bendA = signal[at - 1] - 2 * s + next;
      const bendB = s - 2 * next + signal[at + 2];
      const bend = Math.max(bendA < 0 ? -bendA : bendA, bendB < 0 ? -bendB : bendB);
      let between = 0;
      if ((size > other ? size : other) + STANDS_OUT * bend > matters) {
        let even = 0;
        let odd = 0;
        let y = 0;
        for (let k = 0; k < BETWEEN_REACH; k++) {
          const v = signal[i + 1 + k];
          const w = signal[i + WIDTH - k];
          even += SUMS[k] * (v + w);
          odd += DIFFERENCES[k] * (v - w);
          y += B[k] * (v + w);
        }
        // The greater of |even + odd| and |even − odd|.
        const outer = (even < 0 ? -even : even) + (odd < 0 ? -odd : odd);
        between = Math.max(outer, y < 0 ? -y : y);
        if (between > NEAR * matters || size > NEAR * matters)
          between = Math.max(between, this.finely(i + 1));
      }
      if (cutAt > i + 1 && cutAt <= i + WIDTH) between = Math.max(between, this.besideCut(at));
      let peak = size > before ? size : before;
      if (between > peak) peak = between;
      before = between;
      if (peak > peaks[i]) peaks[i] = peak;
      if (peak > highest) highest = peak;
    }
    this.last[0] = before;
    this.cutAt[0] = cutAt > frames ? cutAt - frames : 0;
    levels[1] = highest;
    for (let k = 0; k < WIDTH; k++) signal[k] = signal[frames + k];
  }
}
