import { Box } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { sea } from '../theme/sea';
import { LiveTick } from './LiveTick';
import { useWheelInFocus } from './use-wheel-in-focus';

interface TrackProps {
  readonly label: string;
  /** Place of the value, 0 to 1. */
  readonly position: number;
  /** Place that counts as nothing: the ink runs from there to the value. */
  readonly origin?: number;
  /** The stretch over which links carry the value. */
  readonly carried?: readonly [number, number] | null;
  /** The target whose place is shown as it moves while the loop plays. */
  readonly live?: string | null;
  readonly valueText: string;
  readonly onMove: (position: number) => void;
  readonly onStep: (steps: number, fine: boolean) => void;
  readonly onReset: () => void;
}

const clamp = (x: number) => Math.min(1, Math.max(0, x));

/**
 * A slider with a tick: drag, arrows (fine with Shift), Page keys, Home and End, wheel with focus, double
 * click for the default.
 */
export function Track({
  label,
  position,
  origin = 0,
  carried,
  live = null,
  valueText,
  onMove,
  onStep,
  onReset,
}: TrackProps) {
  const element = useRef<HTMLDivElement>(null);
  const bind = useDrag(
    ({ xy: [x], event }) => {
      const box = element.current!.getBoundingClientRect();
      event.preventDefault();
      element.current!.focus({ preventScroll: true });
      onMove(clamp((x - box.left) / box.width));
    },
    { pointer: { keys: false }, preventDefault: true },
  );

  useWheelInFocus(element, (up, fine) => {
    onStep(up ? 1 : -1, fine);
  });

  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[
      event.key
    ];
    if (step !== undefined) onStep(step, event.shiftKey);
    else if (event.key === 'Home') onMove(0);
    else if (event.key === 'End') onMove(1);
    else if (event.key === 'Delete' || event.key === 'Backspace') onReset();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const at = (x: number) => `${100 * clamp(x)}%`;
  const span = (from: number, to: number) => ({
    left: at(Math.min(from, to)),
    width: `${100 * Math.abs(clamp(to) - clamp(from))}%`,
  });
  return (
    <Box
      ref={element}
      {...bind()}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={1}
      aria-valuenow={Number(position.toFixed(4))}
      aria-valuetext={valueText}
      onKeyDown={onKeyDown}
      onDoubleClick={onReset}
      sx={{
        position: 'relative',
        height: 24,
        minWidth: 40,
        flex: 1,
        cursor: 'ew-resize',
        touchAction: 'none',
        '& > span': { position: 'absolute' },
      }}
    >
      <Box component="span" sx={{ left: 0, right: 0, top: 11, height: 2, bgcolor: sea.rule }} />
      {carried && (
        <Box
          component="span"
          data-carried
          style={span(carried[0], carried[1])}
          sx={{ top: 8, height: 8, bgcolor: sea.tint3, opacity: 0.75 }}
        />
      )}
      {live !== null && <LiveTick target={live} />}
      <Box component="span" style={span(origin, position)} sx={{ top: 11, height: 2, bgcolor: sea.ink }} />
      <Box
        component="span"
        style={{ left: at(position) }}
        sx={{ top: 5, height: 14, width: 2, ml: '-1px', bgcolor: sea.ink }}
      />
    </Box>
  );
}
