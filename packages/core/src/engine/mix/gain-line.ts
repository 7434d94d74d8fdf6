import { BLOCK } from '../../dsp/index.js';
import { dbToGain } from '../../units/index.js';

/** A gain that movers carry, frame by frame over a block; nothing is computed while it stands. */
export class GainLine {
  /** The level in dB up to which it has come, and the gain that it is. */
  private readonly now = new Float64Array(2);
  private readonly gains = new Float64Array(BLOCK);
  private moves = false;

  /** A block begins where `level`, in dB, is the gain of its first frame. */
  begin(level: number): void {
    const { now } = this;
    if (now[0] !== level || now[1] === 0) {
      now[0] = level;
      now[1] = dbToGain(level);
    }
    this.moves = false;
  }

  /** Runs evenly to a level over the frames from one place of the block up to another. */
  runTo(level: number, from: number, to: number): void {
    const { now, gains } = this;
    if (level === now[0]) {
      if (this.moves) gains.fill(now[1], from, to);
      return;
    }
    if (!this.moves) gains.fill(now[1], 0, from);
    this.moves = true;
    const start = now[1];
    now[0] = level;
    now[1] = dbToGain(level);
    const step = (now[1] - start) / (to - from);
    for (let i = from; i < to; i++) gains[i] = start + (i + 1 - from) * step;
  }

  /** The gains of the block; null where it stood. */
  get frames(): Float64Array | null {
    return this.moves ? this.gains : null;
  }
}
