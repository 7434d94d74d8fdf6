import type { Lane, LanePoint } from '../../document/index.js';
import { bendInPlace } from '../../dsp/index.js';

/** Of points in order of time the last that stands at or before a place; −1 before the first. */
export function pointBefore(ticks: ArrayLike<number>, tick: number): number {
  let low = 0;
  let high = ticks.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ticks[middle] <= tick) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** A lane as columns, read as the loop runs. */
export class LaneReader {
  private readonly ticks: Float64Array;
  private readonly values: Float64Array;
  private readonly bends: Float64Array;
  private readonly holds: Uint8Array;
  private readonly scratch = new Float64Array(2);

  constructor(points: readonly LanePoint[]) {
    this.ticks = Float64Array.from(points, ({ tick }) => tick);
    this.values = Float64Array.from(points, ({ value }) => value);
    this.bends = Float64Array.from(points, ({ bend }) => bend);
    this.holds = Uint8Array.from(points, ({ hold }) => (hold ? 1 : 0));
  }

  /**
   * Writes where the lane stands at the place `place[2]` in ticks, 0 to 1, to `out[at]`. Before its first point
   * it stands where its last one leaves it, since the loop comes round.
   */
  read(place: Float64Array, out: Float64Array, at: number): void {
    const { ticks, values, bends, holds, scratch } = this;
    const last = ticks.length - 1;
    const i = pointBefore(ticks, place[2]);
    if (i < 0) {
      out[at] = values[last];
      return;
    }
    if (i === last || holds[i] === 1) {
      out[at] = values[i];
      return;
    }
    scratch[0] = (place[2] - ticks[i]) / (ticks[i + 1] - ticks[i]);
    scratch[1] = bends[i];
    bendInPlace(scratch, 0);
    out[at] = values[i] + (values[i + 1] - values[i]) * scratch[0];
  }
}

const readers = new WeakMap<readonly LanePoint[], LaneReader>();

/** The reader of a lane's points; every layer reads the same one. */
export function laneReader({ points }: Pick<Lane, 'points'>): LaneReader {
  let reader = readers.get(points);
  if (!reader) readers.set(points, (reader = new LaneReader(points)));
  return reader;
}

/** Where a lane stands at a place in the loop, in ticks: 0 to 1. */
export function laneAt(lane: Pick<Lane, 'points'>, tick: number): number {
  const out = new Float64Array(1);
  laneReader(lane).read(Float64Array.of(0, 0, tick), out, 0);
  return out[0];
}
