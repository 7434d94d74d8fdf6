import { loopTicks } from '@abyssal/core';

const LEFT = 44;
const BOTTOM = 26;
const LEAST_HEIGHT = 372;
/** A row is no lower than this, so that a note is a target of its own. */
const LEAST_ROW = 24;

/** Where notes stand on the sheet, in pixels. */
export interface SheetGeometry {
  readonly rows: readonly number[];
  readonly left: number;
  /** Width of the loop. */
  readonly plot: number;
  readonly height: number;
  /** Height of the rows together. */
  readonly floor: number;
  readonly rowHeight: number;
  /** Ticks of the loop. */
  readonly total: number;
  readonly xOf: (tick: number) => number;
  readonly yOf: (pitch: number) => number;
  /** Tick and row at a place of the sheet; the tick may lie outside the loop. */
  readonly placeOf: (x: number, y: number) => { readonly tick: number; readonly pitch: number };
}

export function sheetGeometry(rows: readonly number[], bars: number, width: number): SheetGeometry {
  const total = loopTicks(bars);
  const plot = width - LEFT;
  const height = Math.max(LEAST_HEIGHT, BOTTOM + LEAST_ROW * rows.length);
  const floor = height - BOTTOM;
  const rowHeight = floor / rows.length;
  return {
    rows,
    left: LEFT,
    plot,
    height,
    floor,
    rowHeight,
    total,
    xOf: (tick) => LEFT + (tick / total) * plot,
    yOf: (pitch) => floor - (rows.indexOf(pitch) + 1) * rowHeight,
    placeOf: (x, y) => {
      const row = Math.floor((floor - y) / rowHeight);
      return {
        tick: ((x - LEFT) / plot) * total,
        pitch: rows[Math.min(rows.length - 1, Math.max(0, row))],
      };
    },
  };
}
