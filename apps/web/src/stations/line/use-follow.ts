import { useEffect, useRef } from 'react';
import { audio } from '../../audio/audio-host';
import { PLACE } from '../../audio/protocol';
import { useView } from '../../state/view-store';
import type { SheetGeometry } from './sheet-geometry';

/** Keeps the place that plays in view where the sheet is wider than its room: it turns as a page does. */
export function useFollow({ left, plot }: SheetGeometry, zoom: number) {
  const box = useRef<HTMLDivElement>(null);
  const playing = useView((state) => state.playing);
  useEffect(() => {
    if (!playing || zoom === 1) return undefined;
    let frame = 0;
    const follow = () => {
      const at = left + audio.shared.state[PLACE] * plot;
      const element = box.current;
      if (element && (at < element.scrollLeft || at > element.scrollLeft + element.clientWidth))
        element.scrollLeft = Math.max(0, at - left);
      frame = requestAnimationFrame(follow);
    };
    frame = requestAnimationFrame(follow);
    return () => {
      cancelAnimationFrame(frame);
    };
  }, [playing, zoom, left, plot]);
  return box;
}
