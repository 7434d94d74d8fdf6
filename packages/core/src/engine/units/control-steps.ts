import { BLOCK } from '../../dsp/index.js';

/**
 * The control steps of a block, found before the audio: where each ends, the numbers as they stand then, and how far
 * each unit is there. So what is moved goes step by step, and everything else at once.
 */
export class ControlSteps {
  /** Frames from the block's start to the end of each. */
  readonly ends = new Int32Array(BLOCK);
  readonly rows: readonly Float64Array[];
  readonly levels: readonly Float64Array[];
  private readonly state = new Int32Array(2);

  /** @param stepFrames frames of a step; a step may be shorter, but none is longer unless it is a whole block. */
  constructor(numbers: number, slots: number, stepFrames: number) {
    const most = BLOCK / stepFrames;
    this.rows = Array.from({ length: most }, () => new Float64Array(numbers));
    this.levels = Array.from({ length: most + 1 }, () => new Float64Array(slots));
  }

  get count(): number {
    return this.state[0];
  }

  /** Whether nothing travels or is switched in this block, so that only what links carry moves. */
  get still(): boolean {
    return this.state[1] === 1;
  }

  /** A block begins: `levels` say how far each unit is there. */
  begin(levels: Float64Array): void {
    this.state[0] = 0;
    this.state[1] = 1;
    this.levels[0].set(levels);
  }

  /** A step ends. */
  add(end: number, numbers: Float64Array, levels: Float64Array, still: boolean): void {
    const { state, ends, rows } = this;
    const step = state[0];
    ends[step] = end;
    rows[step].set(numbers);
    this.levels[step + 1].set(levels);
    state[0] = step + 1;
    if (!still) state[1] = 0;
  }
}
