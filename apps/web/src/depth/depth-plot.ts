import { scaleLog } from 'd3-scale';

/** The chart's ends: the surface and the sea bed, in hertz. */
export const SURFACE_HZ = 16000;
export const BED_HZ = 20;

/** Where things stand in the chart, in pixels. */
export interface DepthPlot {
  /** Height of a frequency in hertz, and the frequency at a height. */
  readonly y: (hz: number) => number;
  readonly hzAt: (y: number) => number;
  readonly left: number;
  readonly right: number;
}

/** From depth in hertz to a height of the chart. */
export const depthScale = (height: number) =>
  scaleLog()
    .domain([BED_HZ, SURFACE_HZ])
    .range([height - 4, 6]);
