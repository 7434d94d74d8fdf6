import { line } from 'd3-shape';

/** A place in pixels, or in the units of a drawing. */
export type Point = readonly [x: number, y: number];

const open = line<Point>().digits(1);

/** Path through points, to a tenth of a pixel. */
export const polyline = (points: Iterable<Point>): string => open(points) ?? '';

/** The same, closed. */
export const polygon = (points: Iterable<Point>): string => `${polyline(points)}Z`;
