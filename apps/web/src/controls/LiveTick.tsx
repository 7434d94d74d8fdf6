import { Box } from '@mui/material';
import { useEffect, useRef } from 'react';
import { useDocumentStore } from '../state/document-store';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { standsNow } from './live-place';

/** Where a number that is moved stands now, on its slider, while the loop plays; moved without rendering. */
export function LiveTick({ target }: { readonly target: string }) {
  const playing = useView((state) => state.playing);
  const tick = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!playing) return undefined;
    let frame = 0;
    const draw = () => {
      const { document } = useDocumentStore.getState();
      const at = document ? standsNow(document, target) : null;
      if (tick.current) {
        tick.current.style.visibility = at === null ? 'hidden' : 'visible';
        if (at !== null) tick.current.style.left = `${(100 * at).toFixed(2)}%`;
      }
      frame = requestAnimationFrame(draw);
    };
    draw();
    return () => {
      cancelAnimationFrame(frame);
    };
  }, [playing, target]);
  return playing ? (
    <Box
      component="span"
      ref={tick}
      data-live={target}
      sx={{ top: 4, height: 16, width: 3, ml: '-1.5px', bgcolor: sea.note, visibility: 'hidden' }}
    />
  ) : null;
}
