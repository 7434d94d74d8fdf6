import { useMemo } from 'react';
import { WavePicture } from './WavePicture';

const POINTS = 240;
const PARTIALS = 48;

interface CyclePictureProps {
  readonly harmonic: (n: number) => { sine: number; cosine: number };
  readonly startDeg: number;
  readonly label: string;
  readonly height?: number;
}

/** One cycle as it sounds: the sum of its first harmonics, from its start phase. */
export function CyclePicture({ harmonic, startDeg, label, height = 64 }: CyclePictureProps) {
  const values = useMemo(() => {
    const parts = Array.from({ length: PARTIALS }, (_, i) => harmonic(i + 1));
    return Array.from({ length: POINTS + 1 }, (_, i) => {
      const t = 2 * Math.PI * (i / POINTS + startDeg / 360);
      // Lanczos factors keep the drawing from ringing at its edges.
      return parts.reduce((sum, { sine, cosine }, k) => {
        const x = (Math.PI * (k + 1)) / (PARTIALS + 1);
        return sum + (Math.sin(x) / x) * (sine * Math.sin((k + 1) * t) + cosine * Math.cos((k + 1) * t));
      }, 0);
    });
  }, [harmonic, startDeg]);
  return <WavePicture values={values} label={label} height={height} />;
}
