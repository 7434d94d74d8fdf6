/** A row that has no effect now: pale, out of reach of the mouse, and told as disabled, so that its paleness is no fault. */
export const idleRow = (label: string) =>
  ({
    role: 'group',
    'aria-label': label,
    'aria-disabled': true,
    style: { opacity: 0.45, pointerEvents: 'none' },
  }) as const;
