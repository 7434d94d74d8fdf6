import type { LineNote } from '@abyssal/core';
import { useDrag } from '@use-gesture/react';
import { memo, useRef } from 'react';
import { shallow } from 'zustand/shallow';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { changeNotes } from './line-edits';
import type { SheetGeometry } from './sheet-geometry';

const HEIGHT = 54;
const PAD = 4;
/** A drag sets the velocity of notes that begin this near to the pointer, in pixels. */
const NEAR = 7;
/** Velocities that are drawn anew together. */
const TOGETHER = 32;

interface VelocityLaneProps {
  readonly geometry: SheetGeometry;
  readonly width: number;
  readonly notes: readonly LineNote[];
  readonly chosen: ReadonlySet<number>;
  readonly onChange: (notes: LineNote[], group: string) => void;
}

/** Velocities under the notes: drag across to draw them. The keyboard changes them on the notes themselves. */
export function VelocityLane({ geometry, width, notes, chosen, onChange }: VelocityLaneProps) {
  const svg = useRef<SVGSVGElement>(null);
  const { left, plot, xOf } = geometry;
  const present = useRef(notes);
  present.current = notes;
  const bind = useDrag(
    ({ xy: [x, y], delta: [dx], event }) => {
      event.preventDefault();
      const box = svg.current!.getBoundingClientRect();
      const here = x - box.left;
      const [low, high] = dx < 0 ? [here - NEAR, here - dx + NEAR] : [here - dx - NEAR, here + NEAR];
      const mine = new Set(
        [...present.current.keys()].filter((i) => {
          const at = xOf(present.current[i].tick);
          // Where notes are chosen only they are drawn.
          return at >= low && at <= high && (chosen.size < 2 || chosen.has(i));
        }),
      );
      if (mine.size === 0) return;
      const share = 1 - (y - box.top - PAD) / (HEIGHT - 2 * PAD);
      const velocity = Math.min(127, Math.max(1, Math.round(127 * share)));
      onChange(
        changeNotes(present.current, mine, () => ({ velocity })),
        'draw velocities',
      );
    },
    { pointer: { keys: false } },
  );
  return (
    <svg
      ref={svg}
      {...bind()}
      width={width}
      height={HEIGHT}
      role="img"
      aria-label="Velocities of the notes. Drag across to draw them; with a note in focus plus and minus change it."
      style={{ touchAction: 'none', cursor: 'crosshair', display: 'block' }}
    >
      <rect x={left} width={Math.max(0, plot)} height={HEIGHT} fill={sea.tint1} />
      <text x={left - 6} y={HEIGHT / 2 + 4} textAnchor="end" fontSize={TYPE.mark} fill={sea.ink2}>
        velocity
      </text>
      {Array.from({ length: Math.ceil(notes.length / TOGETHER) }, (_, g) => (
        <Velocities
          key={g}
          bars={notes
            .slice(g * TOGETHER, (g + 1) * TOGETHER)
            .flatMap((note, i): number[] => [
              xOf(note.tick),
              note.velocity,
              note.accent || chosen.has(g * TOGETHER + i) ? 1 : 0,
            ])}
        />
      ))}
    </svg>
  );
}

/** Velocities of some notes: where each begins in pixels, its velocity, and 1 where it is marked. */
const Velocities = memo(
  function Velocities({ bars }: { readonly bars: readonly number[] }) {
    return Array.from({ length: bars.length / 3 }, (_, i) => {
      const [at, velocity, marked] = bars.slice(3 * i);
      const height = (velocity / 127) * (HEIGHT - 2 * PAD);
      const colour = marked === 1 ? sea.note : sea.tint5;
      return (
        <g key={i}>
          <line
            x1={at + 1}
            x2={at + 1}
            y1={HEIGHT - PAD}
            y2={HEIGHT - PAD - height}
            stroke={colour}
            strokeWidth={2}
          />
          <rect x={at - 2} y={HEIGHT - PAD - height - 2} width={6} height={4} fill={colour} />
        </g>
      );
    });
  },
  (one, other) => shallow(one.bars, other.bars),
);
