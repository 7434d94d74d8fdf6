import { useWheel } from '@use-gesture/react';
import type { RefObject } from 'react';

/**
 * Calls back for each turn of the wheel over an element that has the focus; without the focus the page
 * scrolls as ever.
 * The listener is not passive: a wheel that changes a value must not scroll the page too, which would carry
 * the element away.
 */
export function useWheelInFocus(
  element: RefObject<HTMLElement | null>,
  onWheel: (up: boolean, fine: boolean) => void,
) {
  useWheel(
    ({ event, last }) => {
      if (last || document.activeElement !== element.current) return;
      event.preventDefault();
      onWheel(event.deltaY < 0, event.shiftKey);
    },
    { target: element, eventOptions: { passive: false } },
  );
}
