import { laneAt, MOST_POINTS, type LanePoint } from '@abyssal/core';

export type Points = readonly LanePoint[];

const clamp = (x: number, low: number, high: number) => Math.min(high, Math.max(low, x));
const round = (x: number) => Math.round(x * 1000) / 1000;

/** Adds a point; one that stands there already takes the value. Gives the points and where the new one stands. */
export function addPoint(
  points: Points,
  tick: number,
  value: number,
): { points: LanePoint[]; index: number } {
  const at = points.findIndex((point) => point.tick === tick);
  if (at >= 0) return { points: movePoint(points, at, tick, value, Infinity), index: at };
  const before = [...points].reverse().find((point) => point.tick < tick);
  const added: LanePoint = {
    tick: round(tick),
    value: round(clamp(value, 0, 1)),
    bend: before?.bend ?? 0,
    hold: before?.hold ?? false,
  };
  const next = [...points, added].sort((a, b) => a.tick - b.tick).slice(0, MOST_POINTS);
  return { points: next, index: next.indexOf(added) };
}

/** Moves a point; it stays between its neighbours and within the loop's end. */
export function movePoint(
  points: Points,
  index: number,
  tick: number,
  value: number,
  end: number,
): LanePoint[] {
  const low = index > 0 ? points[index - 1].tick : 0;
  const high = index < points.length - 1 ? points[index + 1].tick : end;
  return points.map((point, i) =>
    i === index ? { ...point, tick: round(clamp(tick, low, high)), value: round(clamp(value, 0, 1)) } : point,
  );
}

/** Takes a point away; the last one stays. */
export const removePoint = (points: Points, index: number): LanePoint[] =>
  points.length === 1 ? [...points] : points.filter((_point, i) => i !== index);

export const changePoint = (points: Points, index: number, change: Partial<LanePoint>): LanePoint[] =>
  points.map((point, i) => (i === index ? { ...point, ...change } : point));

/** Draws one step of a grid: what stood in its cell gives way, and after it the lane goes on as it was. */
export function drawCell(points: Points, tick: number, ticks: number, value: number): LanePoint[] {
  const after = laneAt({ points: [...points] }, tick + ticks);
  const outside = points.filter((point) => point.tick < tick || point.tick >= tick + ticks);
  const held = { bend: 0, hold: true };
  const next = [...outside, { ...held, tick, value: round(clamp(value, 0, 1)) }];
  if (!outside.some((point) => point.tick === tick + ticks))
    next.push({ ...held, tick: tick + ticks, value: round(after) });
  return next.sort((a, b) => a.tick - b.tick).slice(0, MOST_POINTS);
}

const straight = (point: LanePoint) => !point.hold && point.bend === 0;

/** Whether points from one place to another all lie near what the lane would be without those between. */
function standsFor(points: Points, from: number, to: number, off: number): boolean {
  const [a, c] = [points[from], points[to]];
  for (let i = from + 1; i < to; i++) {
    const b = points[i];
    if (a.hold) {
      if (!b.hold || Math.abs(a.value - b.value) > off) return false;
    } else {
      const at = a.value + ((c.value - a.value) * (b.tick - a.tick)) / (c.tick - a.tick || 1);
      if (!straight(a) || !straight(b) || Math.abs(at - b.value) > off) return false;
    }
  }
  return true;
}

/** Leaves out points that the lane would miss by no more than `off` without them. */
export function thinnedOut(points: Points, off = 0.005): LanePoint[] {
  const kept = [points[0]];
  for (let from = 0; from < points.length - 1;) {
    let to = from + 1;
    while (to < points.length - 1 && standsFor(points, from, to + 1, off)) to++;
    kept.push(points[to]);
    from = to;
  }
  return kept;
}
