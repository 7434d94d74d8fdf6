import { memo } from 'react';
import { sea } from '../../../theme/sea';

/** A wave as a line from left to right, its greatest value just within the picture. */
export const WavePicture = memo(function WavePicture({
  values,
  label,
  height = 64,
}: {
  readonly values: ArrayLike<number>;
  readonly label: string;
  readonly height?: number;
}) {
  const last = values.length - 1;
  const top = Math.max(1e-9, ...Array.from(values, Math.abs));
  const path = Array.from(
    values,
    (value, i) => `${i === 0 ? 'M' : 'L'}${i} ${(height / 2 - (height / 2 - 5) * (value / top)).toFixed(1)}`,
  ).join('');
  return (
    <svg
      viewBox={`0 0 ${last} ${height}`}
      preserveAspectRatio="none"
      width="100%"
      height={height}
      role="img"
      aria-label={label}
      style={{ background: sea.tint1, display: 'block' }}
    >
      <line x2={last} y1={height / 2} y2={height / 2} stroke={sea.sheet} vectorEffect="non-scaling-stroke" />
      <path d={path} fill="none" stroke={sea.tint6} strokeWidth={1.6} vectorEffect="non-scaling-stroke" />
    </svg>
  );
});
