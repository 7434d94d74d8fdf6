import { useMemo } from 'react';
import { useSounding } from '../../sounding/sounding-store';

const NONE: readonly never[] = [];

/** Where all that moves and all that is moved stands over the loop, 0 to 1, as it was measured last; by id. */
export function useTraces(): ReadonlyMap<string, Float32Array> {
  const moved = useSounding((state) => state.shown?.moved ?? NONE);
  return useMemo(() => new Map(moved.map(({ id, values }) => [id, values])), [moved]);
}
