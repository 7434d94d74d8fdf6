import { plain, RESPONSE_THIRDS_HZ, signed } from '@abyssal/core';
import { Box } from '@mui/material';
import { BarChart, LineChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import { use as register } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect } from 'react';
import { useChart } from '../../charts/use-chart';
import { FONT } from '../../theme/theme';
import { TYPE } from '../../theme/type';
import { useSeaColours } from '../../theme/use-sea-colours';
import type { Against } from './against';

register([BarChart, LineChart, GridComponent, CanvasRenderer]);

/** A band by the nominal centre that is nearest: “100” for 99.2 Hz, “12.5k”. */
function nominalName(hz: number): string {
  const nominal = RESPONSE_THIRDS_HZ.reduce((best, each) =>
    Math.abs(Math.log(each / hz)) < Math.abs(Math.log(best / hz)) ? each : best,
  );
  return nominal >= 1000 ? `${nominal / 1000}k` : String(nominal);
}

const RANGE_DB = 70;
const MOST_APART_DB = 24;

interface AgainstChartProps {
  readonly found: Against;
  readonly differences: readonly (number | null)[];
  readonly name: string;
}

/** Two spectra over depth, the sea bed at the bottom, and beside them what the second has more or less in each band. */
export function AgainstChart({ found, differences, name }: AgainstChartProps) {
  const { ref, chart } = useChart();
  const colours = useSeaColours();
  useEffect(() => {
    const { hz, a, b } = found;
    const names = hz.map(nominalName);
    const top = 10 * Math.ceil(Math.max(...a, ...b) / 10);
    const axisLabel = { color: colours.ink2, fontFamily: FONT, fontSize: TYPE.mark };
    const depth = (gridIndex: number, shown: boolean) => ({
      type: 'category' as const,
      gridIndex,
      data: names,
      axisLine: { show: false },
      axisTick: { show: false },
      axisLabel: { ...axisLabel, show: shown, interval: hz.length > 12 ? 2 : 0 },
      splitLine: { show: false },
    });
    const levels = (gridIndex: number, min: number, max: number, interval: number) => ({
      type: 'value' as const,
      gridIndex,
      min,
      max,
      interval,
      axisLabel: { ...axisLabel, formatter: (db: number) => plain(db, 0), showMaxLabel: gridIndex === 1 },
      splitLine: { lineStyle: { color: colours.sheet } },
    });
    const grid = { top: 6, bottom: 20, show: true, backgroundColor: colours.tint1, borderWidth: 0 };
    const held = (values: readonly number[]) => values.map((db) => Math.max(db, top - RANGE_DB));
    chart.current?.setOption(
      {
        animation: false,
        grid: [
          { ...grid, left: 34, right: '38%' },
          { ...grid, left: '66%', right: 12 },
        ],
        yAxis: [depth(0, true), depth(1, false)],
        xAxis: [levels(0, top - RANGE_DB, top, 20), levels(1, -MOST_APART_DB, MOST_APART_DB, 12)],
        series: [
          {
            type: 'line',
            data: held(a),
            showSymbol: false,
            silent: true,
            lineStyle: { color: colours.tint5, width: 1.6 },
            areaStyle: { color: colours.tint3, opacity: 0.6, origin: 'start' },
          },
          {
            type: 'line',
            data: held(b),
            showSymbol: false,
            silent: true,
            lineStyle: { color: colours.kick, width: 1.6 },
          },
          {
            type: 'bar',
            xAxisIndex: 1,
            yAxisIndex: 1,
            silent: true,
            barCategoryGap: '20%',
            itemStyle: { color: colours.note },
            data: differences.map((db) =>
              db === null ? null : Math.max(-MOST_APART_DB, Math.min(MOST_APART_DB, db)),
            ),
          },
        ],
      },
      { notMerge: true },
    );
  }, [chart, found, differences, colours]);
  const told = found.hz
    .map((hz, i) => ({ hz, db: differences[i] }))
    .filter((each): each is { hz: number; db: number } => each.db !== null)
    .sort((x, y) => Math.abs(y.db) - Math.abs(x.db))
    .slice(0, 3)
    .map(({ hz, db }) => `${signed(db)} dB around ${Math.round(hz)} Hz`);
  return (
    <Box
      ref={ref}
      role="img"
      aria-label={`${name} against the sound, as loud: ${told.join(', ') || 'nothing to compare'}`}
      sx={{ height: 250, width: '100%' }}
    />
  );
}
