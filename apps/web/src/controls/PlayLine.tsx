import { useEffect, useRef } from 'react';
import { audio } from '../audio/audio-host';
import { PLACE } from '../audio/protocol';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';

/**
 * Where in the loop it plays, as a line of an SVG that is moved without rendering; `left` and `width` are
 * where the loop lies in pixels.
 */
export function PlayLine({
  left = 0,
  width,
  height,
}: {
  readonly left?: number;
  readonly width: number;
  readonly height: number;
}) {
  const playing = useView((state) => state.playing);
  const line = useRef<SVGLineElement>(null);
  useEffect(() => {
    if (!playing) return undefined;
    let frame = 0;
    const draw = () => {
      line.current?.setAttribute(
        'transform',
        `translate(${(left + audio.shared.state[PLACE] * width).toFixed(1)} 0)`,
      );
      frame = requestAnimationFrame(draw);
    };
    draw();
    return () => {
      cancelAnimationFrame(frame);
    };
  }, [playing, left, width]);
  return playing ? (
    <line ref={line} y2={height} stroke={sea.note} strokeWidth={2} pointerEvents="none" />
  ) : null;
}
