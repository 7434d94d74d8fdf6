import { Box } from '@mui/material';
import { useMemo } from 'react';
import { polyline } from '../../charts/polyline';
import { sea } from '../../theme/sea';

/** A value from 0 to 1 as it runs over the loop. */
export function TraceLine({
  values,
  label,
  height = 30,
  filled = false,
}: {
  readonly values: ArrayLike<number>;
  readonly label: string;
  readonly height?: number;
  readonly filled?: boolean;
}) {
  const path = useMemo(() => {
    const every = Math.max(1, Math.floor(values.length / 500));
    const places = Array.from({ length: Math.ceil(values.length / every) }, (_, k) => k * every);
    return polyline(places.map((i) => [(1000 * i) / values.length, 96 - 92 * values[i]]));
  }, [values]);
  return (
    <Box
      component="svg"
      viewBox="0 0 1000 100"
      preserveAspectRatio="none"
      role="img"
      aria-label={label}
      sx={{ width: '100%', height, bgcolor: sea.tint1 }}
    >
      {filled && path !== '' && <path d={`${path}L1000 100L0 100Z`} fill={sea.tint2} />}
      <path d={path} fill="none" stroke={sea.tint5} strokeWidth={1.4} vectorEffect="non-scaling-stroke" />
    </Box>
  );
}
