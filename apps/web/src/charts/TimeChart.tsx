import { Box } from '@mui/material';
import { LineChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent } from 'echarts/components';
import { use as register } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect } from 'react';
import { FONT } from '../theme/theme';
import { TYPE } from '../theme/type';
import { useSeaColours } from '../theme/use-sea-colours';
import type { SeaColours } from '../theme/sea';
import { useChart } from './use-chart';

register([LineChart, GridComponent, MarkLineComponent, CanvasRenderer]);

export interface Trace {
  readonly name: string;
  readonly colour: keyof SeaColours;
  readonly values: ArrayLike<number>;
  readonly dashed?: boolean;
  readonly width?: number;
}

interface TimeChartProps {
  /** What is shown, in words, for those who do not see it. */
  readonly label: string;
  /** Seconds between two values. */
  readonly stepS: number;
  readonly traces: readonly Trace[];
  readonly height: number | string;
  /** Greatest magnitude on the axis; found from the traces where it is not given. */
  readonly top?: number;
  /** Moments in ms that are marked; without a text they are a grid. */
  readonly marks?: readonly { readonly ms: number; readonly text: string }[];
}

/** Pixels under the waves that the axis's labels take. */
const LABELS_PX = 18;

/** The lower end of an axis whose waves reach from `-top` to `top`, with the labels below them. */
const lowest = (top: number, heightPx: number) =>
  top - (2 * top) / (1 - Math.min(0.4, LABELS_PX / Math.max(1, heightPx)));

/** Waves over time in ms. */
export function TimeChart({ label, stepS, traces, height, top, marks = [] }: TimeChartProps) {
  const { ref, chart, size } = useChart();
  const sea = useSeaColours();
  useEffect(() => {
    const most =
      top ??
      Math.max(
        1e-3,
        ...traces.map(({ values }) => {
          let m = 0;
          for (let i = 0; i < values.length; i++) m = Math.max(m, Math.abs(values[i]));
          return m;
        }),
      );
    const length = Math.max(1, ...traces.map(({ values }) => values.length));
    chart.current?.setOption(
      {
        animation: false,
        grid: {
          left: 0,
          right: 0,
          top: 0,
          bottom: 0,
          show: true,
          backgroundColor: sea.tint1,
          borderWidth: 0,
        },
        xAxis: {
          type: 'value',
          min: 0,
          max: length * stepS * 1000,
          axisLine: { show: false },
          axisTick: { show: false },
          axisLabel: {
            inside: true,
            formatter: '{value} ms',
            color: sea.ink2,
            fontFamily: FONT,
            fontSize: TYPE.mark,
            align: 'left',
            showMaxLabel: false,
          },
          splitLine: { lineStyle: { color: sea.sheet } },
        },
        yAxis: {
          type: 'value',
          min: lowest(1.05 * most, size.height),
          max: 1.05 * most,
          axisTick: { show: false },
          axisLabel: { show: false },
          splitLine: { show: false },
          axisLine: { show: false },
        },
        series: traces.map(({ name, colour, values, dashed, width = 1.6 }, s) => ({
          name,
          type: 'line',
          showSymbol: false,
          silent: true,
          sampling: 'lttb',
          lineStyle: { color: sea[colour], width, type: dashed ? 'dashed' : 'solid' },
          data: Array.from(values, (value, i) => [i * stepS * 1000, value]),
          markLine:
            s > 0
              ? undefined
              : {
                  silent: true,
                  symbol: 'none',
                  animation: false,
                  z: 1,
                  lineStyle: { color: sea.note, type: 'dashed' },
                  label: {
                    color: sea.note,
                    fontFamily: FONT,
                    fontSize: TYPE.mark,
                    position: 'insideEndTop',
                    distance: 4,
                  },
                  data: [
                    {
                      yAxis: 0,
                      lineStyle: { color: sea.sheet, type: 'solid', width: 1 },
                      label: { show: false },
                    },
                    ...marks.map(({ ms, text }) => ({
                      xAxis: ms,
                      label: { formatter: text },
                      ...(text === '' ? { lineStyle: { color: sea.tint3, type: 'solid', width: 1 } } : {}),
                    })),
                  ],
                },
        })),
      },
      { notMerge: true },
    );
  }, [chart, traces, stepS, top, marks, sea, size.height]);
  return <Box ref={ref} role="img" aria-label={label} sx={{ height, width: '100%' }} />;
}
