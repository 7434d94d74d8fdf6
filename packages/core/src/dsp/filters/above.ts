import { BLOCK } from '../base/chunk.js';
import { prewarp } from './state-variable.js';
import { SteepHigh } from './steep-edge.js';

/** How far above the bound the edge stands: it is 56 dB down from 0.8 of itself downward. */
const EDGE = 1.25;

/**
 * Keeps what lies below a bound as it was: of what a stage changed, only what stands above a steep edge is let
 * through (`SteepHigh`). The lows keep their phase, too.
 */
export class AboveOnly {
  private readonly edges: readonly SteepHigh[];
  private readonly kept: readonly Float64Array[];
  private readonly changed = new Float64Array(BLOCK);
  private readonly warped = Float64Array.of(NaN, NaN);

  constructor(private readonly sampleRateHz: number) {
    this.edges = [new SteepHigh(), new SteepHigh()];
    this.kept = [new Float64Array(BLOCK), new Float64Array(BLOCK)];
  }

  copyFrom(other: AboveOnly): void {
    this.edges.forEach((edge, s) => {
      edge.copyFrom(other.edges[s]);
    });
    this.warped.set(other.warped);
  }

  /** Takes down both sides as they are before the stage. */
  keep(left: Float64Array, right: Float64Array, from: number, to: number): void {
    const [a, b] = this.kept;
    for (let i = from; i < to; i++) a[i] = left[i];
    if (right !== left) for (let i = from; i < to; i++) b[i] = right[i];
  }

  /** Takes back what the stage changed below `hz[at]`. */
  restore(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    hz: Float64Array,
    at: number,
  ): void {
    const { warped } = this;
    const g = prewarp(EDGE * hz[at], this.sampleRateHz);
    warped[0] = warped[1] === warped[1] ? warped[1] : g;
    warped[1] = g;
    this.side(left, 0, from, to);
    if (right !== left) this.side(right, 1, from, to);
  }

  private side(samples: Float64Array, side: number, from: number, to: number): void {
    const { changed } = this;
    const kept = this.kept[side];
    for (let i = from; i < to; i++) changed[i] = samples[i] - kept[i];
    this.edges[side].process(changed, from, to, this.warped);
    for (let i = from; i < to; i++) samples[i] = kept[i] + changed[i];
  }
}
