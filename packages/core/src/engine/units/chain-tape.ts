/** What goes into a chain, and what comes out of each of its units, written down as it runs. */
export class ChainTape {
  /** In front of the chain, then behind each of its units, in order; left and right, which are one where the sides are. */
  readonly stages: readonly (readonly [Float32Array, Float32Array])[];
  private at = 0;

  /**
   * @param ids of the units that are on.
   * @param frames how many are written at most: those after them are left out.
   */
  constructor(
    readonly ids: readonly string[],
    private readonly frames: number,
  ) {
    this.stages = Array.from({ length: ids.length + 1 }, () => [
      new Float32Array(frames),
      new Float32Array(frames),
    ]);
  }

  /** Writes one stage of the samples from `from` up to `to`. */
  take(stage: number, left: Float64Array, right: Float64Array, from: number, to: number): void {
    const [outLeft, outRight] = this.stages[stage];
    const end = Math.min(to, from + this.frames - this.at);
    for (let i = from; i < end; i++) {
      outLeft[this.at + i - from] = left[i];
      outRight[this.at + i - from] = right[i];
    }
  }

  /** All stages of so many frames are written. */
  advance(frames: number): void {
    this.at += frames;
  }
}
