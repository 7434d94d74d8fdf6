import { clampValue, formatValue, type NumberNode } from '@abyssal/core';
import { useDrag } from '@use-gesture/react';
import { useRef, type ReactNode } from 'react';

interface DepthHandleProps {
  readonly label: string;
  readonly row: NumberNode;
  readonly value: number;
  /** Depth in hertz at a height of the chart in pixels. */
  readonly hzAt: (y: number) => number;
  readonly y: number;
  readonly onChange: (hz: number) => void;
  readonly children: ReactNode;
}

/** Something on the depth chart that is dragged up and down, or moved by the arrow keys. */
export function DepthHandle({ label, row, value, hzAt, y, onChange, children }: DepthHandleProps) {
  const element = useRef<SVGGElement>(null);
  const set = (hz: number) => {
    onChange(clampValue(row, Number(hz.toPrecision(4))));
  };
  const bind = useDrag(
    ({ xy: [, top], event, first }) => {
      event.preventDefault();
      // The keys, undo among them, now belong to the handle and not to a field typed in before.
      if (first) element.current!.focus();
      set(hzAt(top - element.current!.ownerSVGElement!.getBoundingClientRect().top));
    },
    { pointer: { keys: false } },
  );
  return (
    <g
      ref={element}
      {...bind()}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-orientation="vertical"
      aria-valuemin={row.min}
      aria-valuemax={row.max}
      aria-valuenow={Math.round(value)}
      aria-valuetext={formatValue(row, value)}
      onKeyDown={(event) => {
        const step = { ArrowUp: 1, ArrowDown: -1, PageUp: 12, PageDown: -12 }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        set(value * 2 ** (step / (event.shiftKey ? 120 : 24)));
      }}
      style={{ cursor: 'ns-resize', touchAction: 'none' }}
    >
      {children}
      <rect x={0} y={y - 8} width="100%" height={16} fill="transparent" />
    </g>
  );
}
