import { BLOCK, DelayLine } from '../../dsp/index.js';
import type { Block } from './block.js';

/** Holds a layer back until the slowest of the others has come. */
export class LayerWait implements Block {
  silent = true;
  readonly left = new Float64Array(BLOCK);
  readonly right = new Float64Array(BLOCK);
  private readonly waits: readonly [DelayLine, DelayLine];
  /** Frames since the layer sounded. */
  private readonly quiet = Float64Array.of(Infinity);

  constructor(private readonly frames: number) {
    this.waits = [new DelayLine(frames), new DelayLine(frames)];
  }

  copyFrom(other: LayerWait): void {
    if (other.frames !== this.frames) return;
    this.waits.forEach((wait, s) => {
      wait.copyFrom(other.waits[s]);
    });
    this.quiet.set(other.quiet);
  }

  /** Takes a layer's next frames in, and is then what comes out. */
  take(layer: Block, frames: number): this {
    const { left, right, waits, quiet } = this;
    quiet[0] = layer.silent ? quiet[0] + frames : 0;
    this.silent = quiet[0] > this.frames + BLOCK;
    if (this.silent) return this;
    for (let i = 0; i < frames; i++) {
      left[i] = layer.silent ? 0 : layer.left[i];
      right[i] = layer.silent ? 0 : layer.right[i];
    }
    waits[0].process(left, frames);
    waits[1].process(right, frames);
    return this;
  }
}
