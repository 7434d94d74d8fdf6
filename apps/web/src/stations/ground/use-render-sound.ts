import type { Ground } from '@abyssal/core';
import { useEffect, useRef, useState } from 'react';
import { wasCancelled } from '../../sounding/bounce';
import { tellError } from '../../state/view-store';
import { renderSound, type RenderedSound } from './sound-parts';

/**
 * Renders sounds of the library as backing parts, one at a time; what is under way ends with what asked for
 * it.
 */
export function useRenderSound() {
  /** Share done, 0 to 1; null while nothing is under way. */
  const [done, setDone] = useState<number | null>(null);
  const render = useRef<RenderedSound | null>(null);
  useEffect(
    () => () => {
      render.current?.cancel();
    },
    [],
  );
  /** Gives the hash of the recording; null where it was cancelled, or failed, which is told. */
  const start = async (id: string, under: Pick<Ground, 'tempoBpm' | 'bars'>): Promise<string | null> => {
    setDone(0);
    render.current = renderSound(id, under, setDone);
    try {
      return await render.current.asset;
    } catch (error) {
      if (!wasCancelled(error)) tellError(error);
      return null;
    } finally {
      setDone(null);
    }
  };
  return {
    done,
    start,
    cancel: () => {
      render.current?.cancel();
    },
  };
}
