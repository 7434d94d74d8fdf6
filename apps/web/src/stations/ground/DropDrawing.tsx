import { dropEndMs, dropHz, turnsBack, type MadeKick } from '@abyssal/core';
import { Box } from '@mui/material';
import { polyline } from '../../charts/polyline';
import { ToldText } from '../../controls/Mark';
import { sea } from '../../theme/sea';

const WIDTH = 300;
const HEIGHT = 60;
const POINTS = 150;
const LOWEST_HZ = 20;
const LEAST_TOP_HZ = 200;

/**
 * The pitch of a made kick over its drop, on a scale of depth; where the wave turns back on itself it is
 * marked.
 */
export function DropDrawing({ made }: { readonly made: MadeKick }) {
  const end = Math.max(60, 1.3 * dropEndMs(made));
  const pitches = Array.from({ length: POINTS }, (_, i) => dropHz(made, (end * i) / (POINTS - 1)));
  const top = Math.max(LEAST_TOP_HZ, 1.15 * Math.max(...pitches));
  const y = (hz: number) =>
    HEIGHT - 3 - ((HEIGHT - 6) * Math.log(Math.max(LOWEST_HZ, hz) / LOWEST_HZ)) / Math.log(top / LOWEST_HZ);
  const x = (i: number) => (WIDTH * i) / (POINTS - 1);
  const back = turnsBack(made);
  return (
    <Box>
      <Box
        component="svg"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        role="img"
        aria-label={`Pitch over ${Math.round(end)} ms: from ${Math.round(pitches[0])} Hz to ${made.tailHz.toFixed(1)} Hz${back ? '; the wave turns back on itself on the way' : ''}`}
        sx={{ display: 'block', width: '100%', height: HEIGHT, bgcolor: sea.tint1 }}
      >
        <line
          x1={0}
          x2={WIDTH}
          y1={y(made.tailHz)}
          y2={y(made.tailHz)}
          stroke={sea.sheet}
          strokeWidth={1.5}
          vectorEffect="non-scaling-stroke"
        />
        {pitches.map(
          (hz, i) =>
            hz < 0 && (
              <rect
                key={i}
                x={x(i) - 1}
                y={0}
                width={2.4}
                height={HEIGHT}
                fill={sea.short}
                fillOpacity={0.35}
              />
            ),
        )}
        <path
          d={polyline(pitches.map((hz, i) => [x(i), y(hz)]))}
          fill="none"
          stroke={sea.kick}
          strokeWidth={1.6}
          vectorEffect="non-scaling-stroke"
        />
      </Box>
      {back && (
        <ToldText verdict="falls short">
          The wave turns back on itself where it is marked: fewer cycles, or a longer drop, keep its pitch.
        </ToldText>
      )}
    </Box>
  );
}
