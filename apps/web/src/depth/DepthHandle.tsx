import type { NumberNode } from '@abyssal/core';
import { useDrag } from '@use-gesture/react';
import { useRef, type ReactNode } from 'react';
import { frequencyHandle } from '../controls/frequency-handle';

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
  const { set, props } = frequencyHandle({ label, row, value, onChange });
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
    <g ref={element} {...bind()} {...props} style={{ cursor: 'ns-resize', touchAction: 'none' }}>
      {children}
      <rect x={0} y={y - 8} width="100%" height={16} fill="transparent" />
    </g>
  );
}
