import {
  BEATS_PER_BAR,
  formatValue,
  fromPosition,
  laneAt,
  loopTicks,
  TICKS_PER_BEAT,
  type Lane,
  type LanePoint,
  type NumberNode,
} from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { useRef, useState, type KeyboardEvent } from 'react';
import { polyline } from '../charts/polyline';
import { Choice } from '../controls/Choice';
import { PlayLine } from '../controls/PlayLine';
import { useSize } from '../controls/use-size';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { addPoint, changePoint, drawCell, movePoint, removePoint, thinnedOut } from './lane-edits';

const HEIGHT = 84;
const PAD = 7;
/** More points than this are drawn as a line alone: a recorded move has hundreds. */
const SHOWN = 120;

interface LaneEditorProps {
  readonly lane: Lane;
  readonly row: NumberNode;
  readonly label: string;
  readonly bars: number;
  readonly gridTicks: number;
  /** Room at the left, so that its time stands under that of what is above. */
  readonly left?: number;
  readonly onChange: (points: readonly LanePoint[], group: string | null) => void;
}

/**
 * A parameter over the loop, drawn by hand: double-click adds a point, drags move it, Delete removes it; what
 * comes after it is straight, bent or held. Drawn in steps a drag sets one value a cell of the grid.
 */
export function LaneEditor({ lane, row, label, bars, gridTicks, left = 0, onChange }: LaneEditorProps) {
  const [ref, { width }] = useSize<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const [selected, setSelected] = useState<number | null>(null);
  const [inSteps, setInSteps] = useState(false);
  const { points } = lane;
  const end = loopTicks(bars);
  const plot = width - left;
  const px = (tick: number) => left + (tick / end) * plot;
  const py = (value: number) => HEIGHT - PAD - value * (HEIGHT - 2 * PAD);
  const placeOf = (clientX: number, clientY: number) => {
    const box = svg.current!.getBoundingClientRect();
    return {
      tick: Math.min(end, Math.max(0, ((clientX - box.left - left) / plot) * end)),
      value: (HEIGHT - PAD - (clientY - box.top)) / (HEIGHT - 2 * PAD),
    };
  };
  const say = (value: number) => formatValue(row, fromPosition(row, value));
  const columns = Math.max(2, Math.floor(plot));
  const path =
    plot > 0
      ? polyline(
          Array.from(
            { length: columns + 1 },
            (_, c) => [left + c, py(laneAt(lane, (c / columns) * end))] as const,
          ),
        )
      : '';
  const chosen = selected !== null ? points.at(selected) : undefined;
  const draw = useDrag(
    ({ xy: [x, y], event }) => {
      if (!inSteps) return;
      event.preventDefault();
      const at = placeOf(x, y);
      const tick = Math.min(end - gridTicks, Math.floor(at.tick / gridTicks) * gridTicks);
      onChange(drawCell(points, tick, gridTicks, at.value), 'steps');
      setSelected(null);
    },
    { pointer: { keys: false } },
  );
  const beats = bars * BEATS_PER_BAR;
  return (
    <Box>
      <Box ref={ref} sx={{ height: HEIGHT }}>
        {width > 0 && (
          <svg
            ref={svg}
            {...draw()}
            width={width}
            height={HEIGHT}
            role="group"
            aria-label={`${label} over the loop, ${points.length} points`}
            onDoubleClick={(event) => {
              if (inSteps) return;
              const at = placeOf(event.clientX, event.clientY);
              const added = addPoint(points, Math.round(at.tick), at.value);
              onChange(added.points, null);
              setSelected(added.index);
            }}
            style={{ touchAction: 'none', cursor: inSteps ? 'crosshair' : undefined }}
          >
            <rect x={left} width={Math.max(0, plot)} height={HEIGHT} fill={sea.tint1} />
            {Array.from({ length: beats }, (_, beat) => (
              <line
                key={beat}
                x1={px(beat * TICKS_PER_BEAT)}
                x2={px(beat * TICKS_PER_BEAT)}
                y2={HEIGHT}
                stroke={sea.sheet}
                strokeWidth={beat % BEATS_PER_BAR === 0 ? 2 : 1}
              />
            ))}
            <path
              d={path}
              fill="none"
              stroke={lane.on ? sea.note : sea.ink2}
              strokeWidth={1.6}
              strokeDasharray={lane.on ? undefined : '4 3'}
            />
            {!inSteps &&
              points.length <= SHOWN &&
              points.map((point, i) => (
                <Point
                  key={i}
                  label={`${label} point ${i + 1}`}
                  text={`${say(point.value)} at beat ${(point.tick / TICKS_PER_BEAT + 1).toFixed(2)}`}
                  x={px(point.tick)}
                  y={py(point.value)}
                  value={point.value}
                  chosen={i === selected}
                  onChoose={() => {
                    setSelected(i);
                  }}
                  onMove={(clientX, clientY) => {
                    const at = placeOf(clientX, clientY);
                    onChange(movePoint(points, i, Math.round(at.tick), at.value, end), `point ${i}`);
                  }}
                  onStep={(ticks, value) => {
                    onChange(
                      movePoint(points, i, point.tick + ticks * gridTicks, point.value + value, end),
                      `point ${i}`,
                    );
                  }}
                  onRemove={() => {
                    onChange(removePoint(points, i), null);
                    setSelected(null);
                  }}
                  onAdd={() => {
                    const to = points.at(i + 1)?.tick ?? end;
                    const tick = Math.round((point.tick + to) / 2);
                    if (tick <= point.tick) return;
                    const added = addPoint(points, tick, laneAt(lane, tick));
                    onChange(added.points, null);
                    setSelected(added.index);
                  }}
                />
              ))}
            <PlayLine left={left} width={Math.max(0, plot)} height={HEIGHT} />
          </svg>
        )}
      </Box>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          flexWrap: 'wrap',
          gap: '6px',
          pl: `${left}px`,
          minHeight: 26,
          fontSize: TYPE.note,
          color: sea.ink2,
        }}
      >
        <Button
          variant={inSteps ? 'contained' : 'outlined'}
          aria-pressed={inSteps}
          sx={{ p: '0 6px', fontSize: TYPE.note }}
          onClick={() => {
            setInSteps(!inSteps);
          }}
        >
          draw in steps
        </Button>
        {points.length > 2 && (
          <Button
            variant="outlined"
            sx={{ p: '0 6px', fontSize: TYPE.note }}
            onClick={() => {
              onChange(thinnedOut(points), null);
              setSelected(null);
            }}
          >
            thin out
          </Button>
        )}
        {chosen && (
          <>
            <Choice
              label="To the next point"
              options={[
                { value: 'line', label: 'straight' },
                { value: 'bent', label: 'bent' },
                { value: 'hold', label: 'held' },
              ]}
              value={chosen.hold ? 'hold' : chosen.bend !== 0 ? 'bent' : 'line'}
              onChange={(to) => {
                onChange(
                  changePoint(points, selected!, {
                    hold: to === 'hold',
                    bend: to === 'bent' ? chosen.bend || 0.5 : 0,
                  }),
                  null,
                );
              }}
            />
            {!chosen.hold && chosen.bend !== 0 && (
              <Choice
                label="Bend"
                options={['-0.9', '-0.5', '0.5', '0.9'].map((value) => ({
                  value,
                  label: value.replace('-', '−'),
                }))}
                value={String(chosen.bend)}
                onChange={(bend) => {
                  onChange(changePoint(points, selected!, { bend: Number(bend) }), 'bend');
                }}
              />
            )}
          </>
        )}
        <Box sx={{ flex: 1 }} />
        <span aria-live="polite">
          {chosen
            ? `${say(chosen.value)} at beat ${(chosen.tick / TICKS_PER_BEAT + 1).toFixed(2)}`
            : inSteps
              ? 'drag to draw, a value for each step of the grid'
              : points.length > SHOWN
                ? `${points.length} points; thin it out to edit them`
                : 'double-click adds a point'}
        </span>
      </Box>
    </Box>
  );
}

interface PointProps {
  readonly label: string;
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly value: number;
  readonly chosen: boolean;
  readonly onChoose: () => void;
  readonly onMove: (clientX: number, clientY: number) => void;
  readonly onStep: (steps: number, value: number) => void;
  readonly onRemove: () => void;
  readonly onAdd: () => void;
}

function Point({ label, text, x, y, value, chosen, onChoose, onMove, onStep, onRemove, onAdd }: PointProps) {
  const bind = useDrag(
    ({ xy: [px, py], event, tap }) => {
      event.preventDefault();
      event.stopPropagation();
      onChoose();
      if (!tap) onMove(px, py);
    },
    { pointer: { keys: false }, filterTaps: true },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const by = event.shiftKey ? 0.002 : 0.02;
    const step = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[event.key];
    if (step) onStep(step[0], step[1]);
    else if (event.key === 'Delete' || event.key === 'Backspace') onRemove();
    else if (event.key === 'Enter') onAdd();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <g
      {...bind()}
      tabIndex={0}
      role="slider"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(100 * value)}
      aria-valuetext={text}
      onFocus={onChoose}
      onKeyDown={onKeyDown}
      onDoubleClick={(event) => {
        event.stopPropagation();
        onRemove();
      }}
      style={{ cursor: 'move', touchAction: 'none' }}
    >
      <circle cx={x} cy={y} r={12} fill="transparent" />
      <rect
        x={x - 4}
        y={y - 4}
        width={8}
        height={8}
        transform={`rotate(45 ${x} ${y})`}
        fill={chosen ? sea.note : sea.sheet}
        stroke={sea.ink}
        strokeWidth={1.2}
      />
    </g>
  );
}
