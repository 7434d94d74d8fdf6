import { memo, useMemo } from 'react';
import { TimeChart } from '../../charts/TimeChart';
import { useSounding } from '../../sounding/sounding-store';

const NO_WAVE = { stepS: 0.001, values: new Float32Array() };

/** One hit of the kick over time, and where its tail begins. */
export const KickWave = memo(function KickWave({ name }: { readonly name: string }) {
  const { stepS, values } = useSounding(({ shown }) => shown?.kickWave ?? NO_WAVE);
  const tailS = useSounding(({ shown }) => shown?.kick.tail?.fromS ?? null);
  const traces = useMemo(() => [{ name: 'kick', colour: 'kick' as const, values }], [values]);
  const marks = useMemo(() => (tailS === null ? [] : [{ ms: 1000 * tailS, text: 'tail' }]), [tailS]);
  return (
    <TimeChart
      label={`One hit of the kick “${name}” over time`}
      stepS={stepS}
      traces={traces}
      marks={marks}
      height={96}
    />
  );
});
