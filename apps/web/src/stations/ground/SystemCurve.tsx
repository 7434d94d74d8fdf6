import type { OwnSystem } from '@abyssal/core';
import { Box } from '@mui/material';
import { polyline } from '../../charts/polyline';
import { useSize } from '../../controls/use-size';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';

const HEIGHT = 120;
const LOWEST_HZ = 20;
const HIGHEST_HZ = 20000;
const TOP_DB = 12;
const BOTTOM_DB = -48;
const MARKS_HZ = [20, 50, 100, 200, 500, 1000, 2000, 5000, 10000];

/** What a system plays at each frequency. */
export function SystemCurve({ system }: { readonly system: OwnSystem }) {
  const [ref, { width }] = useSize<HTMLDivElement>();
  const x = (hz: number) => (width * Math.log(hz / LOWEST_HZ)) / Math.log(HIGHEST_HZ / LOWEST_HZ);
  const y = (db: number) =>
    ((TOP_DB - Math.min(TOP_DB, Math.max(BOTTOM_DB, db))) / (TOP_DB - BOTTOM_DB)) * (HEIGHT - 16);
  return (
    <Box ref={ref} role="img" aria-label={`Response of ${system.name}`} sx={{ height: HEIGHT }}>
      {width > 0 && (
        <svg width={width} height={HEIGHT}>
          <rect width={width} height={HEIGHT - 16} fill={sea.tint1} />
          {[0, -12, -24, -36].map((db) => (
            <g key={db}>
              <line x2={width} y1={y(db)} y2={y(db)} stroke={sea.sheet} />
              <text x={3} y={y(db) - 2} fontSize={TYPE.mark} fill={sea.ink2}>
                {String(db).replace('-', '−')} dB
              </text>
            </g>
          ))}
          {MARKS_HZ.map((hz) => (
            <text key={hz} x={x(hz)} y={HEIGHT - 3} fontSize={TYPE.mark} fill={sea.ink2}>
              {hz >= 1000 ? `${hz / 1000} kHz` : `${hz} Hz`}
            </text>
          ))}
          <path
            d={polyline(system.response.map(({ hz, levelDb }) => [x(hz), y(levelDb)]))}
            fill="none"
            stroke={sea.tint6}
            strokeWidth={1.6}
          />
        </svg>
      )}
    </Box>
  );
}
