import { DEPTH_BANDS_HZ, MOMENT_SIZE, momentSpectrum } from '@abyssal/core';
import { curveBasis, line } from 'd3-shape';
import { useEffect, useRef } from 'react';
import { audio } from '../audio/audio-host';
import { useHeldNotes } from '../audio/live';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { SURFACE_HZ } from './depth-plot';

/** Milliseconds between two spectra: as often as the eye follows. */
const EVERY_MS = 50;
/** How long it goes on after the last note was let go. */
const RINGS_MS = 1500;
const BANDS = Array.from(DEPTH_BANDS_HZ.keys()).filter((i) => DEPTH_BANDS_HZ[i] <= SURFACE_HZ);

/** The spectrum of what sounds now, loop and played keys alike, as a thin line; drawn without rendering. */
export function LiveSpectrum({
  x,
  y,
}: {
  readonly x: (db: number) => number;
  readonly y: (hz: number) => number;
}) {
  const playing = useView((state) => state.playing);
  const held = useHeldNotes(({ notes }) => notes.size > 0);
  const path = useRef<SVGPathElement>(null);
  const scales = useRef({ x, y });
  useEffect(() => {
    scales.current = { x, y };
  });
  useEffect(() => {
    const draw = () => {
      const { left, right } = audio.shared.heard(MOMENT_SIZE);
      for (let i = 0; i < left.length; i++) left[i] = 0.5 * (left[i] + right[i]);
      const levels = momentSpectrum(left, audio.sampleRateHz);
      const at = scales.current;
      path.current?.setAttribute(
        'd',
        line<number>()
          .digits(1)
          .y((i) => at.y(DEPTH_BANDS_HZ[i]))
          .x((i) => at.x(levels[i]))
          .curve(curveBasis)(BANDS) ?? '',
      );
    };
    const clear = () => path.current?.setAttribute('d', '');
    if (!playing && !held) {
      // What was let go rings on.
      const timer = setInterval(draw, EVERY_MS);
      const end = setTimeout(() => {
        clearInterval(timer);
        clear();
      }, RINGS_MS);
      return () => {
        clearInterval(timer);
        clearTimeout(end);
      };
    }
    const timer = setInterval(draw, EVERY_MS);
    return () => {
      clearInterval(timer);
    };
  }, [playing, held]);
  return (
    <path ref={path} data-live-spectrum fill="none" stroke={sea.ink} strokeWidth={1} pointerEvents="none" />
  );
}
