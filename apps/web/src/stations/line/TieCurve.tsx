import { linkHorizontal } from 'd3-shape';
import type { LineNote } from '@abyssal/core';
import { sea } from '../../theme/sea';
import type { SheetGeometry } from './sheet-geometry';

/** Pixels by which a tie reaches into the notes that it joins. */
const REACH_PX = 4;

const curve = linkHorizontal<{ source: [number, number]; target: [number, number] }, [number, number]>();

/** A tie from a note to the one that it glides into. */
export function TieCurve({
  geometry,
  from,
  to,
}: {
  readonly geometry: SheetGeometry;
  readonly from: LineNote;
  readonly to: LineNote;
}) {
  const { xOf, yOf, rowHeight } = geometry;
  const middle = (pitch: number) => yOf(pitch) + rowHeight / 2;
  const path = curve({
    source: [xOf(from.tick + from.ticks) - REACH_PX, middle(from.pitch)],
    target: [xOf(to.tick) + REACH_PX, middle(to.pitch)],
  });
  return <path d={path ?? ''} fill="none" stroke={sea.note} strokeWidth={2} pointerEvents="none" />;
}
