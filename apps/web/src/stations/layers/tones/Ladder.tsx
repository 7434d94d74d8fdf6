import { clampValue, formatValue, plain, type NumberNode } from '@abyssal/core';
import { Box } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { useSize } from '../../../controls/use-size';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { NUMERALS } from '../../../theme/theme';

/** Rungs that are seen at once. */
export const RUNGS = 12;
const RUNG = 24;
const LEFT = 66;
const RIGHT = 46;
const FLOOR_DB = -60;
/** A drag that begins so far left of the levels, at the number of a rung, chooses it. */
const NUMBER_GAP = 6;
const CHOOSES = 'chooses';

interface LadderProps {
  readonly of: string;
  /** Number of the lowest rung, from 0. */
  readonly first: number;
  readonly chosen: number;
  /** Fundamental at which the rungs' depths are written, in hertz. */
  readonly hz: number;
  readonly row: NumberNode;
  /** Levels as they are drawn, and as they are heard, in dB. */
  readonly levels: readonly number[];
  readonly heard: readonly number[];
  readonly onDraw: (n: number, db: number) => void;
  readonly onChoose: (n: number) => void;
}

const depth = (hz: number) => (hz >= 10000 ? `${(hz / 1000).toFixed(1)}k` : String(Math.round(hz)));

/**
 * Harmonics as rungs, the fundamental at the bottom: drawn by a drag across them, or rung by rung with the
 * keys.
 */
export function HarmonicLadder({ of, first, chosen, hz, row, levels, heard, onDraw, onChoose }: LadderProps) {
  const [ref, { width }] = useSize<HTMLDivElement>();
  const element = useRef<SVGSVGElement>(null);
  const height = RUNGS * RUNG;
  const span = Math.max(1, width - LEFT - RIGHT);
  const x = (db: number) => Math.max(0, Math.min(1, (db - FLOOR_DB) / -FLOOR_DB)) * span;
  const bind = useDrag(
    ({ first: first0, xy: [px, py], event, memo }) => {
      event.preventDefault();
      const box = element.current!.getBoundingClientRect();
      const rung = RUNGS - 1 - Math.max(0, Math.min(RUNGS - 1, Math.floor((py - box.top) / RUNG)));
      // The number chooses and changes nothing.
      if (first0 && px - box.left < LEFT - NUMBER_GAP) {
        onChoose(first + rung);
        return CHOOSES;
      }
      if (memo === CHOOSES) return CHOOSES;
      const share = (px - box.left - LEFT) / span;
      const db = share <= 0 ? row.min : Number(clampValue(row, FLOOR_DB + share * -FLOOR_DB).toFixed(1));
      // A fast drag leaves no rung between out.
      const last = (memo as number | undefined) ?? rung;
      for (let n = Math.min(last, rung); n <= Math.max(last, rung); n++) onDraw(first + n, db);
      onChoose(first + rung);
      return rung;
    },
    { pointer: { keys: false } },
  );
  const onKeyDown = (event: KeyboardEvent, n: number) => {
    const level = levels[n - first] ?? row.min;
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const move = { ArrowUp: 1, ArrowDown: -1, PageUp: RUNGS, PageDown: -RUNGS }[event.key];
    if (step !== undefined)
      onDraw(
        n,
        clampValue(row, Number((Math.max(FLOOR_DB, level) + step * (event.shiftKey ? 0.1 : 1)).toFixed(1))),
      );
    else if (event.key === 'Delete' || event.key === 'Backspace') onDraw(n, row.min);
    else if (move !== undefined) {
      const next = Math.max(0, n + move);
      onChoose(next);
      requestAnimationFrame(() => {
        element.current?.querySelector<SVGElement>(`[data-harmonic="${next}"]`)?.focus();
      });
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box ref={ref} sx={{ height }}>
      {width > 0 && (
        <svg
          ref={element}
          {...bind()}
          width={width}
          height={height}
          role="group"
          aria-label={`${of} harmonics ${first + 1} to ${first + RUNGS}: drag across, or arrow keys`}
          style={{ touchAction: 'none', cursor: 'crosshair', display: 'block' }}
        >
          {levels.map((db, i) => {
            const n = first + i;
            const top = (RUNGS - 1 - i) * RUNG;
            const tint = n < 3 ? sea.tint6 : n < 6 ? sea.tint5 : n < 12 ? sea.tint4 : sea.tint3;
            return (
              <g
                key={n}
                data-harmonic={n}
                role="slider"
                tabIndex={n === chosen ? 0 : -1}
                aria-label={`Harmonic ${n + 1}`}
                aria-orientation="horizontal"
                aria-valuemin={row.min}
                aria-valuemax={row.max}
                aria-valuenow={db}
                aria-valuetext={formatValue(row, db)}
                onFocus={() => {
                  if (n !== chosen) onChoose(n);
                }}
                onKeyDown={(event) => {
                  onKeyDown(event, n);
                }}
              >
                <rect
                  x={0}
                  y={top}
                  width={width}
                  height={RUNG}
                  fill={n === chosen ? sea.tint1 : 'transparent'}
                />
                <text x={20} y={top + RUNG / 2 + 4} fontSize={TYPE.note} textAnchor="end" fill={sea.ink}>
                  {n + 1}
                </text>
                <text
                  x={58}
                  y={top + RUNG / 2 + 4}
                  fontSize={TYPE.mark}
                  textAnchor="end"
                  fill={sea.ink2}
                  fontFamily={NUMERALS}
                  fontStyle="italic"
                >
                  {depth(hz * (n + 1))}
                </text>
                <line x1={LEFT} x2={LEFT + span} y1={top + RUNG / 2} y2={top + RUNG / 2} stroke={sea.hair} />
                <rect
                  x={LEFT}
                  y={top + 5}
                  width={x(Math.max(FLOOR_DB, heard[i]))}
                  height={RUNG - 10}
                  fill={tint}
                />
                {Math.abs(heard[i] - db) > 0.05 && db > FLOOR_DB && (
                  <line
                    x1={LEFT + x(db)}
                    x2={LEFT + x(db)}
                    y1={top + 2}
                    y2={top + RUNG - 2}
                    stroke={sea.note}
                    strokeWidth={1.4}
                  />
                )}
                <text
                  x={width - 2}
                  y={top + RUNG / 2 + 4}
                  fontSize={TYPE.mark}
                  textAnchor="end"
                  fill={sea.ink2}
                >
                  {db <= row.min ? '–' : plain(db)}
                </text>
              </g>
            );
          })}
        </svg>
      )}
    </Box>
  );
}
