import { barBeat, BEATS_PER_BAR, KEY_NAMES, noteName, TICKS_PER_BEAT, type KeyName } from '@abyssal/core';
import { useId, type KeyboardEvent, type SVGProps } from 'react';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { NUMERALS } from '../../theme/theme';
import type { SheetGeometry } from './sheet-geometry';

const TICKS_PER_BAR = BEATS_PER_BAR * TICKS_PER_BEAT;
/** With more bars than this only the bars are numbered. */
const MOST_NUMBERED_BARS = 4;
/** A row that is lower than this has no name, but for the root's. */
const NAMED_ROW_PX = 12;

/** Rows lie deep to high: the deeper, the darker. */
function depthTint(share: number): string {
  if (share < 0.34) return sea.tint2;
  return share < 0.7 ? sea.tint1 : sea.paper;
}

function lineWidth(tick: number): number {
  if (tick % TICKS_PER_BAR === 0) return 2.4;
  return tick % TICKS_PER_BEAT === 0 ? 1.6 : 0.5;
}

interface SheetRowsProps {
  readonly geometry: SheetGeometry;
  readonly gridTicks: number;
  /** Rows outside the scale. */
  readonly outside: ReadonlySet<number>;
  readonly keyName: KeyName;
  readonly bars: number;
  /** Ticks of the kick's hits. */
  readonly hits: readonly number[];
  /** What makes notes of a drag on the rows, and of Enter. */
  readonly draw: SVGProps<SVGGElement>;
  readonly onEnter: () => void;
}

/** The rows and steps that notes are drawn on, with their names, and where the kick hits. */
export function SheetRows({
  geometry,
  gridTicks,
  outside,
  keyName,
  bars,
  hits,
  draw,
  onEnter,
}: SheetRowsProps) {
  const { rows, left, plot, height, floor, rowHeight, total, xOf, yOf } = geometry;
  const hatch = useId();
  const root = KEY_NAMES.indexOf(keyName);
  const named = rows.filter((pitch) => rowHeight >= NAMED_ROW_PX || pitch % 12 === root);
  const beats = Array.from({ length: bars * BEATS_PER_BAR }, (_, beat) => beat);
  const numbered = beats.filter((beat) => bars <= MOST_NUMBERED_BARS || beat % BEATS_PER_BAR === 0);
  const row = (pitch: number) => ({ x: left, y: yOf(pitch), width: plot, height: rowHeight });
  return (
    <>
      <defs>
        <pattern id={hatch} width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line y2={6} stroke={sea.rule} strokeWidth={1.5} />
        </pattern>
      </defs>
      <g
        {...draw}
        tabIndex={0}
        role="button"
        aria-label="Add a note at the root"
        onKeyDown={(event: KeyboardEvent) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          onEnter();
        }}
        style={{ cursor: 'crosshair', touchAction: 'none' }}
      >
        {rows.map((pitch, r) => (
          <rect
            key={pitch}
            {...row(pitch)}
            fill={depthTint(r / rows.length)}
            stroke={sea.sheet}
            strokeWidth={0.6}
          />
        ))}
        {Array.from({ length: total / gridTicks }, (_, step) => step * gridTicks).map((tick) => (
          <line
            key={tick}
            x1={xOf(tick)}
            x2={xOf(tick)}
            y2={floor}
            stroke={sea.sheet}
            strokeWidth={lineWidth(tick)}
          />
        ))}
      </g>
      {rows
        .filter((pitch) => outside.has(pitch))
        .map((pitch) => (
          <rect key={pitch} {...row(pitch)} fill={`url(#${hatch})`} pointerEvents="none" />
        ))}
      {named.map((pitch) => (
        <text
          key={pitch}
          x={left - 8}
          y={yOf(pitch) + rowHeight / 2 + 4}
          textAnchor="end"
          fontSize={TYPE.note}
          fontFamily={NUMERALS}
          fontStyle="italic"
          fontWeight={pitch % 12 === root ? 600 : 400}
          fill={sea.ink2}
        >
          {noteName(pitch)}
        </text>
      ))}
      {numbered.map((beat) => (
        <text
          key={beat}
          x={xOf(beat * TICKS_PER_BEAT) + 2}
          y={height - 8}
          fontSize={TYPE.mark}
          fill={sea.ink2}
        >
          {barBeat(beat * TICKS_PER_BEAT)}
        </text>
      ))}
      {hits.map((tick) => (
        <path key={tick} d={`M${xOf(tick)} ${floor + 1}l5 -10l5 10z`} fill={sea.kick} pointerEvents="none" />
      ))}
    </>
  );
}
