import { plain, roseGainDb, type Rose as LockRose } from '@abyssal/core';
import { Box } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { useMemo, useRef } from 'react';
import { polygon } from '../../charts/polyline';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { wholeDegrees } from './words';

const SIZE = 292;
const CENTRE = SIZE / 2;
const RADIUS = 112;
const FLOOR_DB = -15;
const TOP_DB = 3.01;

const radiusOf = (db: number) => RADIUS * Math.min(1, Math.max(0, (db - FLOOR_DB) / (TOP_DB - FLOOR_DB)));
/** 0° is at the top; a bass that leads lies to the right. */
const point = (deg: number, radius: number) =>
  [
    CENTRE + radius * Math.sin((deg * Math.PI) / 180),
    CENTRE - radius * Math.cos((deg * Math.PI) / 180),
  ] as const;

/** The dial round the rose, made once: it never changes while the rose is dragged. */
const DIAL = (
  <>
    {Array.from({ length: 36 }, (_, i) => {
      const [x1, y1] = point(10 * i, RADIUS + 2);
      const [x2, y2] = point(10 * i, RADIUS + (i % 3 === 0 ? 9 : 5));
      const [tx, ty] = point(10 * i, RADIUS + 22);
      return (
        <g key={i}>
          <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={sea.ink2} />
          {i % 3 === 0 && (
            <text x={tx} y={ty + 4} textAnchor="middle" fontSize={TYPE.mark} fill={sea.ink2}>
              {i <= 18 ? 10 * i : `−${360 - 10 * i}`}°
            </text>
          )}
        </g>
      );
    })}
  </>
);

interface RoseProps {
  /** What the sum gain is at any turn beside the measured state; null where there is none. */
  readonly rose: LockRose | null;
  /** Bearing that was measured, in degrees; null where there is no common phase. */
  readonly measuredDeg: number | null;
  /** By how much the bass was turned since then. */
  readonly since: number;
  /** The turn from the measured state that gives most. */
  readonly bestTurnDeg: number | null;
  readonly reason: string | null;
  /** Turns the bass by degrees. */
  readonly onTurn: (byDeg: number) => void;
}

/**
 * The rose: the sum gain that every turn of the bass would give, laid round by the bearing it leads to; the
 * present bearing, and the best one.
 */
export function RoseDial({ rose, measuredDeg, since, bestTurnDeg, reason, onTurn }: RoseProps) {
  const svg = useRef<SVGSVGElement>(null);
  const petal = useMemo(() => {
    if (!rose || measuredDeg === null) return '';
    return polygon(
      Array.from({ length: 181 }, (_, i) => point(2 * i, radiusOf(roseGainDb(rose, 2 * i - measuredDeg)))),
    );
  }, [rose, measuredDeg]);
  const bind = useDrag(
    ({ xy: [x, y], first, memo, event }) => {
      event.preventDefault();
      const box = svg.current!.getBoundingClientRect();
      const angle =
        (Math.atan2(x - box.left - box.width / 2, -(y - box.top - box.height / 2)) * 180) / Math.PI;
      if (!first) {
        const by = ((angle - (memo as number) + 540) % 360) - 180;
        if (by !== 0) onTurn(by);
      }
      return angle;
    },
    { pointer: { keys: false } },
  );

  const present =
    rose && measuredDeg !== null ? { deg: measuredDeg + since, gain: roseGainDb(rose, since) } : null;
  const best =
    rose && measuredDeg !== null && bestTurnDeg !== null
      ? { deg: measuredDeg + bestTurnDeg, gain: roseGainDb(rose, bestTurnDeg) }
      : null;
  const round = (deg: number) => ((((Math.round(deg) + 180) % 360) + 360) % 360) - 180;
  const now = present ? point(present.deg, RADIUS) : null;
  const say = present
    ? `${round(present.deg)} degrees, sum gain ${present.gain.toFixed(1)} dB${best ? `; the best bearing is ${round(best.deg)} degrees with ${best.gain.toFixed(1)} dB` : ''}`
    : (reason ?? 'no bearing');
  return (
    <Box sx={{ display: 'grid', justifyItems: 'center' }}>
      <svg
        ref={svg}
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        width="100%"
        style={{ maxWidth: 296, maxHeight: 296 }}
        role="group"
        aria-label={`Sum gain over the phase bearing: ${say}`}
      >
        <circle cx={CENTRE} cy={CENTRE} r={RADIUS} fill={sea.tint1} stroke={sea.rule} strokeDasharray="2 2" />
        {[0, -6, -12].map((db) => (
          <circle
            key={db}
            cx={CENTRE}
            cy={CENTRE}
            r={radiusOf(db)}
            fill="none"
            stroke={sea.sheet}
            strokeWidth={1.2}
          />
        ))}
        <path d={petal} fill={sea.tint3} fillOpacity={0.7} stroke={sea.tint5} />
        {[0, -6, -12].map((db) => (
          <text key={db} x={CENTRE + 4} y={CENTRE - radiusOf(db) + 12} fontSize={TYPE.mark} fill={sea.ink2}>
            {db === 0 ? '0' : `−${-db}`} dB
          </text>
        ))}
        {DIAL}
        {best &&
          (() => {
            const [x, y] = point(best.deg, RADIUS);
            return (
              <line
                x1={CENTRE}
                y1={CENTRE}
                x2={x}
                y2={y}
                stroke={sea.holds}
                strokeWidth={2}
                strokeDasharray="4 3"
              />
            );
          })()}
        {now && (
          <g
            {...bind()}
            tabIndex={0}
            role="slider"
            aria-label="Bearing of the bass"
            aria-valuemin={-180}
            aria-valuemax={180}
            aria-valuenow={round(present!.deg)}
            aria-valuetext={say}
            onKeyDown={(event) => {
              const step = {
                ArrowRight: 1,
                ArrowUp: 1,
                ArrowLeft: -1,
                ArrowDown: -1,
                PageUp: 15,
                PageDown: -15,
              }[event.key];
              if (step === undefined) return;
              event.preventDefault();
              onTurn(step);
            }}
            style={{ cursor: 'grab', touchAction: 'none' }}
          >
            <line x1={CENTRE} y1={CENTRE} x2={now[0]} y2={now[1]} stroke={sea.note} strokeWidth={2.4} />
            <circle cx={now[0]} cy={now[1]} r={16} fill="transparent" />
            <circle cx={now[0]} cy={now[1]} r={6.5} fill={sea.sheet} stroke={sea.note} strokeWidth={2} />
          </g>
        )}
      </svg>
      <Box sx={{ fontSize: TYPE.control, color: sea.ink2, textAlign: 'center', minHeight: 20 }}>
        {present
          ? `bearing ${wholeDegrees(round(present.deg))}° gives ${plain(present.gain)} dB; the dashed line is the best${best ? `, ${plain(best.gain)} dB` : ''}`
          : reason}
      </Box>
    </Box>
  );
}
