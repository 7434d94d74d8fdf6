import { loopTicks, type LanePoint } from '@abyssal/core';

/** The points of a lane that stands at one place over all of the loop. */
export function flatLane(value: number, bars: number): LanePoint[] {
  const at = Math.round(value * 1000) / 1000;
  return [0, loopTicks(bars)].map((tick) => ({ tick, value: at, bend: 0, hold: false }));
}
