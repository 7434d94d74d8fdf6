import { bent, clampValue, formatValue, parameter } from '@abyssal/core';
import { Box } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { useRef } from 'react';
import { useSize } from '../controls/use-size';
import { sea } from '../theme/sea';
import { polyline, type Point } from './polyline';

/** Times of an envelope; a mover’s has no delay and no hold. */
export interface EnvelopeTimes {
  delayMs?: number;
  holdMs?: number;
  attackMs: number;
  attackBend: number;
  decayMs: number;
  decayBend: number;
  sustainPct: number;
  releaseMs: number;
  releaseBend: number;
}

const HEIGHT = 66;
const TOP = 8;
const BOTTOM = HEIGHT - 5;
/** Shares of the width for the three moving segments and the held one between them. */
const SHARES = { delay: 0.12, attack: 0.2, peak: 0.12, decay: 0.24, hold: 0.1, release: 0.2 };
const LONGEST_MS = 6000;
/**
 * The hold's corner stands so far from the attack's in pixels when there is no hold, so that both can be
 * taken.
 */
const HOLD_APART = 14;

/**
 * Times grow with the square root of the width, so that a click of 1 ms and a swell of 5 s can both be drawn.
 */
const widthOf = (ms: number, share: number, width: number) =>
  Math.sqrt(Math.min(1, ms / LONGEST_MS)) * share * width;
const msOf = (px: number, share: number, width: number) =>
  LONGEST_MS * Math.min(1, Math.max(0, px / (share * width))) ** 2;

/** Where the corners of an envelope lie in a drawing of a width. */
function envelopePlaces(times: EnvelopeTimes, width: number) {
  const start = 6 + widthOf(times.delayMs ?? 0, SHARES.delay, width);
  const peak = start + widthOf(times.attackMs, SHARES.attack, width);
  const fall =
    peak + (times.holdMs === undefined ? 0 : HOLD_APART + widthOf(times.holdMs, SHARES.peak, width));
  const sustain = fall + widthOf(times.decayMs, SHARES.decay, width);
  const release = sustain + SHARES.hold * width;
  const end = release + widthOf(times.releaseMs, SHARES.release, width);
  const level = BOTTOM - (times.sustainPct / 100) * (BOTTOM - TOP);
  return { start, peak, fall, sustain, release, end, level };
}

/** Points of one bent segment, both ends with it. */
function segment(x0: number, y0: number, x1: number, y1: number, bend: number): Point[] {
  const steps = 20;
  return Array.from({ length: steps + 1 }, (_, i) => {
    const t = i / steps;
    return [x0 + (x1 - x0) * t, y0 + (y1 - y0) * bent(t, bend)];
  });
}

interface EnvelopeDrawingProps {
  readonly of: string;
  readonly times: EnvelopeTimes;
  readonly rowPrefix: string;
  readonly onChange: (field: keyof EnvelopeTimes, value: number) => void;
}

/**
 * An envelope that is drawn by hand: its corners are dragged, and its lines are bent. Arrow keys do the same.
 */
export function EnvelopeDrawing({ of, times, rowPrefix, onChange }: EnvelopeDrawingProps) {
  const [ref, { width }] = useSize<HTMLDivElement>();
  const { start, peak, fall: falls, sustain, release, end, level } = envelopePlaces(times, width);
  const set = (field: keyof EnvelopeTimes, value: number) => {
    const row = parameter(`${rowPrefix}.${field}`);
    onChange(
      field,
      clampValue(row, row.scale === 'log' ? Number(value.toPrecision(3)) : Number(value.toFixed(2))),
    );
  };
  const attack = segment(start, BOTTOM, peak, TOP, times.attackBend);
  const decay = segment(falls, TOP, sustain, level, times.decayBend);
  const fall = segment(release, level, end, BOTTOM, times.releaseBend);
  const line = polyline([[6, BOTTOM], ...attack, ...decay, ...fall]);
  const say = (field: keyof EnvelopeTimes) =>
    formatValue(parameter(`${rowPrefix}.${field}`), times[field] ?? 0);
  return (
    <Box ref={ref} sx={{ height: HEIGHT, bgcolor: sea.tint1 }}>
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="group"
          aria-label={`${of} envelope: attack ${say('attackMs')}, decay ${say('decayMs')}, sustain ${say('sustainPct')}, release ${say('releaseMs')}`}
        >
          <path d={`${line}Z`} fill={sea.tint2} />
          <path d={line} fill="none" stroke={sea.ink} strokeWidth={1.6} />
          {(
            [
              ['attackBend', attack, 1],
              ['decayBend', decay, -1],
              ['releaseBend', fall, -1],
            ] as const
          ).map(([field, points, sense]) => (
            <Bender
              key={field}
              label={`${of} ${field.replace('Bend', ' bend')}`}
              path={polyline(points)}
              bend={times[field]}
              sense={sense}
              onBend={(value) => {
                set(field, value);
              }}
            />
          ))}
          {times.delayMs !== undefined && (
            <Corner
              label={`${of} delay`}
              text={say('delayMs')}
              x={start}
              y={BOTTOM}
              onMove={(x) => {
                set('delayMs', Math.round(msOf(x - 6, SHARES.delay, width)));
              }}
              onKey={(h) => {
                set('delayMs', Math.max(0, times.delayMs! + 5 * h));
              }}
            />
          )}
          {times.holdMs !== undefined && (
            <Corner
              label={`${of} hold`}
              text={say('holdMs')}
              x={falls}
              y={TOP}
              onMove={(x) => {
                set('holdMs', Math.round(msOf(x - peak - HOLD_APART, SHARES.peak, width)));
              }}
              onKey={(h) => {
                set('holdMs', Math.max(0, times.holdMs! + 5 * h));
              }}
            />
          )}
          <Corner
            label={`${of} attack`}
            text={say('attackMs')}
            x={peak}
            y={TOP}
            onMove={(x) => {
              set('attackMs', msOf(x - start, SHARES.attack, width));
            }}
            onKey={(h) => {
              set('attackMs', times.attackMs * 1.06 ** h);
            }}
          />
          <Corner
            label={`${of} decay and sustain`}
            text={`${say('decayMs')}, ${say('sustainPct')}`}
            x={sustain}
            y={level}
            onMove={(x, y) => {
              set('decayMs', msOf(x - falls, SHARES.decay, width));
              set('sustainPct', (100 * (BOTTOM - y)) / (BOTTOM - TOP));
            }}
            onKey={(h, v) => {
              if (h !== 0) set('decayMs', times.decayMs * 1.06 ** h);
              if (v !== 0) set('sustainPct', times.sustainPct + v);
            }}
          />
          <Corner
            label={`${of} release`}
            text={say('releaseMs')}
            x={end}
            y={BOTTOM}
            onMove={(x) => {
              set('releaseMs', msOf(x - release, SHARES.release, width));
            }}
            onKey={(h) => {
              set('releaseMs', times.releaseMs * 1.06 ** h);
            }}
          />
        </svg>
      )}
    </Box>
  );
}

interface CornerProps {
  readonly label: string;
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly onMove: (x: number, y: number) => void;
  readonly onKey: (horizontal: number, vertical: number) => void;
}

function Corner({ label, text, x, y, onMove, onKey }: CornerProps) {
  const element = useRef<SVGGElement>(null);
  const bind = useDrag(
    ({ xy: [px, py], event }) => {
      event.preventDefault();
      const box = element.current!.ownerSVGElement!.getBoundingClientRect();
      onMove(px - box.left, py - box.top);
    },
    { pointer: { keys: false } },
  );
  return (
    <g
      ref={element}
      {...bind()}
      tabIndex={0}
      role="slider"
      aria-label={label}
      aria-valuenow={Math.round(x)}
      aria-valuetext={text}
      onKeyDown={(event) => {
        const [h, v] = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
          event.key
        ] ?? [0, 0];
        if (h === 0 && v === 0) return;
        event.preventDefault();
        const fine = event.shiftKey ? 0.2 : 1;
        onKey(h * fine, v * fine);
      }}
      style={{ cursor: 'move', touchAction: 'none' }}
    >
      <circle cx={x} cy={y} r={12} fill="transparent" />
      <circle cx={x} cy={y} r={5} fill={sea.sheet} stroke={sea.ink} strokeWidth={1.5} />
    </g>
  );
}

interface BenderProps {
  readonly label: string;
  readonly path: string;
  readonly bend: number;
  /** 1 where the line rises. */ readonly sense: 1 | -1;
  readonly onBend: (bend: number) => void;
}

function Bender({ label, path, bend, sense, onBend }: BenderProps) {
  const bind = useDrag(
    ({ movement: [, dy], first, memo, event }) => {
      event.preventDefault();
      const from = first ? bend : (memo as number);
      onBend(Math.max(-1, Math.min(1, from + (sense * dy) / 50)));
      return from;
    },
    { pointer: { keys: false } },
  );
  return (
    <path
      {...bind()}
      d={path}
      fill="none"
      stroke="transparent"
      strokeWidth={24}
      tabIndex={0}
      role="slider"
      aria-label={label}
      aria-valuemin={-1}
      aria-valuemax={1}
      aria-valuenow={bend}
      onKeyDown={(event) => {
        const step = { ArrowUp: 1, ArrowDown: -1 }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        onBend(Math.max(-1, Math.min(1, bend + 0.05 * step)));
      }}
      style={{ cursor: 'ns-resize', touchAction: 'none' }}
    />
  );
}
