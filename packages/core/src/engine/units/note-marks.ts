/** Where the notes of a loop begin, for what must know ahead. */
export class NoteMarks {
  /**
   * @param frames where notes begin, rising; `loopFrames` is the length of the loop, infinite for what does not
   * come round.
   */
  constructor(
    private readonly frames: readonly number[],
    private readonly loopFrames: number,
  ) {}

  /**
   * Writes to `out[0]` in how many frames the next note begins of what came `late` frames before `place`; below 0
   * the loop does not run.
   */
  tell(place: number, late: number, out: Float64Array): void {
    const { frames, loopFrames } = this;
    out[0] = Infinity;
    if (frames.length === 0 || place < 0) return;
    let at = place - late;
    if (at < 0 && loopFrames < Infinity) at += loopFrames * Math.ceil(-at / loopFrames);
    let low = 0;
    let high = frames.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (frames[middle] < at) low = middle + 1;
      else high = middle;
    }
    out[0] = low < frames.length ? frames[low] - at : loopFrames + frames[0] - at;
  }
}

/** Where no note is known to come. */
export const NO_MARKS = new NoteMarks([], Infinity);
