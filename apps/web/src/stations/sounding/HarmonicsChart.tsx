import { Box } from '@mui/material';
import { LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import { use as register } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect } from 'react';
import { Legend } from '../../charts/Legend';
import { useChart } from '../../charts/use-chart';
import { Panel } from '../../controls/Panel';
import { sea } from '../../theme/sea';
import { FONT } from '../../theme/theme';
import { TYPE } from '../../theme/type';
import { useSeaColours } from '../../theme/use-sea-colours';
import { placeWords, type HeardCell } from './heard-map';

register([LineChart, ScatterChart, GridComponent, CanvasRenderer]);

/** Where the chart begins; harmonics under it are left out. */
const LOWEST_DB = 0;
const STEP_DB = 20;

/** A note's harmonics as they reach the listener, against what hides them. */
export function HarmonicsChart({ cell }: { readonly cell: HeardCell | null }) {
  const { ref, chart } = useChart();
  const colours = useSeaColours();
  const listening = cell?.listening ?? null;
  useEffect(() => {
    const harmonics = listening?.harmonics ?? [];
    const shown = harmonics.filter(({ splDb }) => splDb > LOWEST_DB);
    const top =
      STEP_DB *
      Math.ceil(Math.max(60, ...harmonics.map((each) => Math.max(each.splDb, each.thresholdDb))) / STEP_DB);
    const axisLabel = { color: colours.ink2, fontFamily: FONT, fontSize: TYPE.mark };
    const stems = shown.flatMap(({ hz, splDb }) => [
      [hz, LOWEST_DB],
      [hz, splDb],
      [hz, null],
    ]);
    chart.current?.setOption(
      {
        animation: false,
        grid: {
          left: 34,
          right: 12,
          top: 8,
          bottom: 22,
          show: true,
          backgroundColor: colours.tint1,
          borderWidth: 0,
        },
        xAxis: {
          type: 'log',
          min: 20,
          max: 5000,
          axisLine: { show: false },
          axisTick: { show: false },
          axisLabel: {
            ...axisLabel,
            formatter: (hz: number) => (hz >= 1000 ? `${hz / 1000} kHz` : `${hz} Hz`),
          },
          splitLine: { lineStyle: { color: colours.sheet } },
        },
        yAxis: {
          type: 'value',
          min: LOWEST_DB,
          max: top,
          interval: STEP_DB,
          axisLabel: { ...axisLabel },
          splitLine: { lineStyle: { color: colours.sheet } },
        },
        series: [
          {
            type: 'line',
            data: stems,
            showSymbol: false,
            silent: true,
            connectNulls: false,
            lineStyle: { color: colours.tint5, width: 2 },
          },
          {
            type: 'scatter',
            silent: true,
            symbolSize: 7,
            data: shown.map(({ hz, splDb, audible }) => ({
              value: [hz, splDb],
              itemStyle: {
                color: audible ? colours.tint6 : colours.sheet,
                borderColor: colours.tint6,
                borderWidth: 1.4,
              },
            })),
          },
          {
            type: 'line',
            data: harmonics.map(({ hz, thresholdDb }) => [hz, thresholdDb]),
            showSymbol: false,
            silent: true,
            lineStyle: { color: colours.note, width: 1.6, type: 'dashed' },
          },
        ],
      },
      { notMerge: true },
    );
  }, [chart, listening, colours]);
  const label = listening
    ? `Harmonics that are heard: ${
        listening.harmonics
          .filter(({ audible }) => audible)
          .map(({ n }) => n)
          .join(', ') || 'none'
      }`
    : 'No harmonics to show';
  return (
    <Panel
      title={cell ? `Harmonics of ${placeWords(cell)}` : 'Harmonics of a note'}
      label="Harmonics of a note"
      aside="dB SPL at the listener"
    >
      <Box ref={ref} role="img" aria-label={label} sx={{ height: 222, width: '100%' }} />
      <Box sx={{ mt: '4px', fontSize: TYPE.note, color: sea.ink2 }}>
        <Legend
          entries={[
            ['harmonic, filled where it is heard', sea.tint6],
            ['hearing and room noise', sea.note, true],
          ]}
        />
      </Box>
    </Panel>
  );
}
