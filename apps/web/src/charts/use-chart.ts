import { init, type EChartsType } from 'echarts/core';
import { useEffect, useRef, type RefObject } from 'react';
import { useSize } from '../controls/use-size';

/** A chart in an element, as large as it is: the element's ref, the chart, and the size. */
export function useChart() {
  const [ref, size] = useSize<HTMLDivElement>();
  const chart: RefObject<EChartsType | null> = useRef<EChartsType>(null);
  useEffect(() => {
    const made = init(ref.current);
    chart.current = made;
    return () => {
      made.dispose();
    };
  }, [ref]);
  useEffect(() => {
    if (size.width > 0) chart.current?.resize();
  }, [size]);
  return { ref, chart, size };
}
