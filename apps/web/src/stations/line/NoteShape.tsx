import type { LineNote } from '@abyssal/core';
import { area } from 'd3-shape';
import type { Point } from '../../charts/polyline';
import { sea } from '../../theme/sea';

interface NoteShapeProps {
  readonly note: LineNote;
  readonly x: number;
  readonly width: number;
  readonly y: number;
  readonly height: number;
  /** The wobble's value over the whole loop, 0 to 1; null where none is on. */
  readonly wobble: Float32Array | null;
  readonly total: number;
  readonly chosen: boolean;
}

/** Path of half heights about a middle. */
const outline = (edge: Iterable<Point>, middle: number) =>
  area<Point>()
    .digits(1)
    .x(([px]) => px)
    .y0(([, half]) => middle + half)
    .y1(([, half]) => middle - half)(edge) ?? '';

/** A note: its thickness is the velocity, its outline the wobble as it runs through the note. */
export function NoteShape({ note, x, width, y, height, wobble, total, chosen }: NoteShapeProps) {
  const middle = y + height / 2;
  const half = 0.46 * height * (0.35 + 0.65 * ((note.accent ? 127 : note.velocity) / 127));
  const points = Math.max(2, Math.round(width / 2));
  const edge = Array.from({ length: points + 1 }, (_, i) => {
    const tick = note.tick + (note.ticks * i) / points;
    const value = wobble
      ? wobble[Math.min(wobble.length - 1, Math.floor((tick / total) * wobble.length))]
      : 1;
    return [x + (width * i) / points, half * (0.18 + 0.82 * value)] as const;
  });
  return (
    <>
      <rect
        x={x}
        y={y}
        width={width}
        height={height}
        fill={chosen ? sea.sheet : 'transparent'}
        fillOpacity={0.7}
        stroke={chosen ? sea.note : 'none'}
        strokeDasharray="3 2"
      />
      <path
        d={outline(edge, middle)}
        fill={note.accent ? sea.note : sea.tint5}
        stroke={sea.tint6}
        strokeWidth={0.8}
      />
    </>
  );
}
