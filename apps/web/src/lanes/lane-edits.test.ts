import { cleanSound, findProblems, laneAt, MOST_POINTS, type LanePoint } from '@abyssal/core';
import fc from 'fast-check';
import {
  addPoint,
  changePoint,
  drawCell,
  movePoint,
  removePoint,
  thinnedOut,
  type Points,
} from './lane-edits';
import { flatLane } from '../state/flat-lane';

const END = 3840;
const problems = (points: Points) =>
  findProblems({ ...cleanSound(), lanes: [{ target: 'layers.body.levelDb', on: true, points }] });
const edits = fc.array(
  fc.record({
    do: fc.constantFrom('add', 'move', 'remove', 'bend', 'draw', 'thin'),
    at: fc.nat(),
    tick: fc.integer({ min: 0, max: END - 240 }),
    value: fc.double({ min: -1, max: 2, noNaN: true }),
  }),
  { maxLength: 50 },
);

describe('the points of a lane', () => {
  it('stay a lane that the document takes, whatever is done to them', () => {
    fc.assert(
      fc.property(edits, (list) => {
        let points: Points = flatLane(0.4, 2);
        for (const { do: what, at, tick, value } of list) {
          const i = at % points.length;
          if (what === 'add') ({ points } = addPoint(points, tick, value));
          else if (what === 'move') points = movePoint(points, i, tick, value, END);
          else if (what === 'remove') points = removePoint(points, i);
          else if (what === 'bend')
            points = changePoint(points, i, { bend: Math.max(-1, Math.min(1, value)), hold: at % 2 === 0 });
          else if (what === 'draw') points = drawCell(points, tick - (tick % 120), 120, value);
          else points = thinnedOut(points);
          expect(problems(points)).toEqual([]);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('drawn as a step stand there and nowhere else', () => {
    const rising: LanePoint[] = [
      { tick: 0, value: 0, bend: 0, hold: false },
      { tick: END, value: 1, bend: 0, hold: false },
    ];
    const points = drawCell(rising, 960, 240, 0.9);
    expect(laneAt({ points }, 1000)).toBe(0.9);
    expect(laneAt({ points }, 1199)).toBe(0.9);
    expect(laneAt({ points }, 1200)).toBeCloseTo(1200 / END, 2);
  });

  it('are thinned by no more than half a per cent', () => {
    const points = Array.from({ length: 400 }, (_, i) => ({
      tick: 9 * i,
      value: 0.5 + 0.4 * Math.sin(i / 40),
      bend: 0,
      hold: false,
    }));
    const few = thinnedOut(points);
    expect(few.length).toBeLessThan(200);
    for (let tick = 0; tick < 3591; tick += 7)
      expect(Math.abs(laneAt({ points: few }, tick) - laneAt({ points }, tick))).toBeLessThanOrEqual(0.0051);
    expect(
      addPoint(
        Array.from({ length: MOST_POINTS }, (_, i) => ({ tick: i, value: 0, bend: 0, hold: true })),
        0.5,
        1,
      ).points,
    ).toHaveLength(MOST_POINTS);
  });
});
