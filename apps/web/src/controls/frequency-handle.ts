import { clampValue, formatValue, type NumberNode } from '@abyssal/core';
import type { KeyboardEvent } from 'react';

/** By how many steps the keys move a frequency, of which 24 are an octave, or 120 with Shift. */
const STEPS: Readonly<Record<string, number>> = { ArrowUp: 1, ArrowDown: -1, PageUp: 12, PageDown: -12 };

/** A frequency that a key moves, in hertz; null where the key moves none. */
export function nudgedHz(
  hz: number,
  { key, shiftKey }: { readonly key: string; readonly shiftKey: boolean },
) {
  const steps = STEPS[key];
  return steps === undefined ? null : hz * 2 ** (steps / (shiftKey ? 120 : 24));
}

interface FrequencyHandle {
  readonly label: string;
  readonly row: NumberNode;
  readonly value: number;
  readonly onChange: (hz: number) => void;
}

/** What makes an element a handle of a frequency: its role, what it says, its keys; and how it is set. */
export function frequencyHandle({ label, row, value, onChange }: FrequencyHandle) {
  const set = (hz: number) => {
    onChange(clampValue(row, Number(hz.toPrecision(4))));
  };
  const props = {
    role: 'slider',
    tabIndex: 0,
    'aria-label': label,
    'aria-orientation': 'vertical',
    'aria-valuemin': row.min,
    'aria-valuemax': row.max,
    'aria-valuenow': Math.round(value),
    'aria-valuetext': formatValue(row, value),
    onKeyDown: (event: KeyboardEvent) => {
      const hz = nudgedHz(value, event);
      if (hz === null) return;
      event.preventDefault();
      set(hz);
    },
  } as const;
  return { set, props };
}
