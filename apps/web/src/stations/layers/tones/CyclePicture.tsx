import { useMemo } from 'react';
import { sea } from '../../../theme/sea';

const POINTS = 240;
const PARTIALS = 48;

interface CyclePictureProps { readonly harmonic: (n: number) => { sine: number; cosine: number }; readonly startDeg: number; readonly label: string; readonly height?: number }

/** One cycle as it sounds: the sum of its first harmonics, from its start phase. */
export function CyclePicture({ harmonic, startDeg, label, height = 64 }: CyclePictureProps) {
  const path = useMemo(() => {
    const parts = Array.from({ length: PARTIALS }, (_, i) => harmonic(i + 1));
    const values = Array.from({ length: POINTS + 1 }, (_, i) => {
      const t = 2 * Math.PI * (i / POINTS + startDeg / 360);
      // Lanczos factors keep the drawing from ringing at its edges.
      return parts.reduce((sum, { sine, cosine }, k) => {
        const x = (Math.PI * (k + 1)) / (PARTIALS + 1);
        return sum + (Math.sin(x) / x) * (sine * Math.sin((k + 1) * t) + cosine * Math.cos((k + 1) * t));
      }, 0);
    });
    const top = Math.max(1e-9, ...values.map(Math.abs));
    return values.map((value, i) => `${i === 0 ? 'M' : 'L'}${i} ${(height / 2 - (height / 2 - 5) * (value / top)).toFixed(1)}`).join('');
  }, [harmonic, startDeg, height]);
  return (
    <svg viewBox={`0 0 ${POINTS} ${height}`} preserveAspectRatio="none" width="100%" height={height} role="img" aria-label={label} style={{ background: sea.tint1, display: 'block' }}>
      <line x2={POINTS} y1={height / 2} y2={height / 2} stroke={sea.sheet} vectorEffect="non-scaling-stroke" />
      <path d={path} fill="none" stroke={sea.tint6} strokeWidth={1.6} vectorEffect="non-scaling-stroke" />
    </svg>
  );
}
