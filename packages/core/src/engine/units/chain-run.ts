/**
 * What a chain gives over one run of a loop, from its start on: written down as it runs, or played back in its place
 * where it was written down before.
 */
export class ChainRun {
  private at = 0;

  /**
   * @param sides of all the run's frames, one where the chain's sides do not differ.
   * @param plays whether it is played back.
   */
  constructor(
    readonly sides: readonly Float64Array[],
    readonly plays: boolean,
  ) {}

  /** Goes on by the samples from `from` up to `to`, which are written down or replaced. */
  process(left: Float64Array, right: Float64Array, from: number, to: number): void {
    const { sides, at } = this;
    for (let s = 0; s < sides.length; s++) {
      const samples = s === 0 ? left : right;
      const kept = sides[s];
      if (this.plays) for (let i = from; i < to; i++) samples[i] = kept[at + i - from];
      else for (let i = from; i < to; i++) kept[at + i - from] = samples[i];
    }
    this.at = at + to - from;
  }
}
