import {
  DEPTH_BANDS_HZ,
  noteToHz,
  runGrit,
  unitKindOf,
  CHAIN_FORMAT,
  CHAIN_VERSION,
  type GritUnit,
} from '@abyssal/core';
import { Box } from '@mui/material';
import { scaleLinear } from 'd3-scale';
import { useMemo, type ReactNode } from 'react';
import { polyline, type Point } from '../charts/polyline';
import { useSize } from '../controls/use-size';
import { BED_HZ, depthScale, SURFACE_HZ } from '../depth/depth-plot';
import { useChainFigures } from '../sounding/chain-figures';
import { useSound } from '../state/document-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { useLiveUnit } from './use-live-unit';

const HEIGHT = 112;
/** Of drawings of levels and of what is raised by depth, in dB. */
const LEAST_DB = -60;
const MOST_DB = 6;
const RAISED_DB = 18;
/** An impulse is looked at for so long, at this rate. */
const RATE = 24000;
const LOOK_S = 0.6;

/** What a unit does: its curve, its response or its answer to an impulse, and what it did to the loop by depth. */
export function UnitDrawing({ unit }: { readonly unit: GritUnit }) {
  const live = useLiveUnit(unit);
  const kind = unitKindOf(unit.kind);
  const note = useSound(({ line, ground }) => noteToHz(line.notes[0]?.pitch ?? 29, ground.a4Hz));
  const main = kind.curve ? (
    kind.family === 'dynamics' ? (
      <Levels at={kind.curve(live)} />
    ) : (
      <Transfer at={kind.curve(live)} />
    )
  ) : kind.response ? (
    <ByDepth label="Response by depth" dbAt={kind.response(live, note)} />
  ) : kind.waitsS ? (
    <Impulse unit={unit} />
  ) : null;
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: main ? 'minmax(0, 3fr) minmax(0, 2fr)' : '1fr',
        gap: '8px',
        height: HEIGHT,
      }}
    >
      {main}
      <Change unit={unit} />
    </Box>
  );
}

interface FrameProps {
  readonly label: string;
  readonly children: (width: number, height: number) => ReactNode;
}

function Frame({ label, children }: FrameProps) {
  const [ref, { width, height }] = useSize<HTMLDivElement>();
  return (
    <Box ref={ref} sx={{ height: HEIGHT, minWidth: 0, bgcolor: sea.tint1, position: 'relative' }}>
      {width > 0 && (
        <svg width={width} height={height} role="img" aria-label={label} style={{ display: 'block' }}>
          {children(width, height)}
        </svg>
      )}
    </Box>
  );
}

const Cross = ({ x, y, width, height }: Readonly<Record<'x' | 'y' | 'width' | 'height', number>>) => (
  <path d={`M0 ${y}H${width}M${x} 0V${height}`} stroke={sea.sheet} strokeWidth={1.2} fill="none" />
);

interface GraphProps {
  readonly label: string;
  /** What goes in lies between these, and what comes out. */
  readonly into: readonly [number, number];
  readonly out: readonly [number, number];
  readonly points: readonly Point[];
  /** Where lines cross to read it by. */
  readonly marks: readonly number[];
  readonly note?: string;
}

/** What comes out for what goes in; the dashed line is what would leave it as it is. */
function Graph({ label, into, out, points, marks, note }: GraphProps) {
  return (
    <Frame label={label}>
      {(width, height) => {
        const x = scaleLinear()
          .domain(into)
          .range([2, width - 2]);
        const y = scaleLinear()
          .domain(out)
          .range([height - 3, 3])
          .clamp(true);
        const path = (of: readonly Point[]) => polyline(of.map(([a, b]): Point => [x(a), y(b)]));
        return (
          <>
            {marks.map((at) => (
              <Cross key={at} x={x(at)} y={y(at)} width={width} height={height} />
            ))}
            <path
              d={path(into.map((at): Point => [at, at]))}
              stroke={sea.ink2}
              strokeDasharray="3 3"
              opacity={0.5}
            />
            <path d={path(points)} stroke={sea.ink} strokeWidth={1.8} fill="none" />
            <text x={width - 4} y={height - 5} textAnchor="end" fontSize={TYPE.mark} fill={sea.ink2}>
              {note}
            </text>
          </>
        );
      }}
    </Frame>
  );
}

/** A curve of samples, from −1 to 1. */
function Transfer({ at }: { readonly at: (x: number) => number }) {
  const points = Array.from({ length: 161 }, (_, i): Point => [i / 80 - 1, at(i / 80 - 1)]);
  const most = Math.max(1, ...points.map(([, y]) => Math.abs(y)));
  return (
    <Graph
      label="What comes out for what goes in"
      into={[-1, 1]}
      out={[-most, most]}
      points={points}
      marks={[0]}
    />
  );
}

const dB = (x: number) => 20 * Math.log10(Math.max(1e-6, Math.abs(x)));
const LEVELS_DB = [LEAST_DB, MOST_DB] as const;

/** The same in dB, as what works on levels has it. */
function Levels({ at }: { readonly at: (x: number) => number }) {
  const points = Array.from({ length: 133 }, (_, i): Point => {
    const db = LEAST_DB + i / 2;
    return [db, dB(at(10 ** (db / 20)))];
  });
  return (
    <Graph
      label="Level out for level in, dB"
      into={LEVELS_DB}
      out={LEVELS_DB}
      points={points}
      marks={[-48, -36, -24, -12, 0]}
      note="−60 to +6 dB"
    />
  );
}

/** From dB raised to a place across a drawing. */
const raisedScale = (width: number) =>
  scaleLinear()
    .domain([-RAISED_DB, RAISED_DB])
    .range([2, width - 2])
    .clamp(true);

const DEPTHS = Array.from({ length: 150 }, (_, i) => BED_HZ * (SURFACE_HZ / BED_HZ) ** (i / 149));

/** What is raised or lowered, drawn upward by depth as the depth chart has it; the middle leaves it as it is. */
function ByDepth({ label, dbAt }: { readonly label: string; readonly dbAt: (hz: number) => number }) {
  return (
    <Frame label={label}>
      {(width, height) => {
        const y = depthScale(height);
        const x = raisedScale(width);
        return (
          <>
            <Depths y={y} x={x(0)} width={width} height={height} />
            <path
              d={polyline(DEPTHS.map((hz): Point => [x(dbAt(hz)), y(hz)]))}
              stroke={sea.ink}
              strokeWidth={1.8}
              fill="none"
            />
          </>
        );
      }}
    </Frame>
  );
}

function Depths({
  y,
  x,
  width,
  height,
}: {
  readonly y: (hz: number) => number;
  readonly x: number;
  readonly width: number;
  readonly height: number;
}) {
  return (
    <>
      <path d={`M${x} 0V${height}`} stroke={sea.ink2} opacity={0.5} />
      {(
        [
          [100, '100'],
          [1000, '1k'],
          [10000, '10k'],
        ] as const
      ).map(([hz, text]) => (
        <g key={hz}>
          <path d={`M0 ${y(hz)}H${width}`} stroke={sea.sheet} strokeWidth={1.2} />
          <text x={4} y={y(hz) - 2} fontSize={TYPE.mark} fill={sea.ink2}>
            {text}
          </text>
        </g>
      ))}
    </>
  );
}

/** What it did to the loop by depth, as it was measured: raised to the right, lowered to the left. */
function Change({ unit }: { readonly unit: GritUnit }) {
  const found = useChainFigures(({ units }) => units?.get(unit.id) ?? null);
  return (
    <Frame label="What it did to the loop by depth, dB">
      {(width, height) => {
        const y = depthScale(height);
        const x = raisedScale(width);
        const points = found
          ? DEPTH_BANDS_HZ.flatMap((hz, b): Point[] =>
              hz > SURFACE_HZ || Number.isNaN(found.changeDb[b]) ? [] : [[x(found.changeDb[b]), y(hz)]],
            )
          : [];
        return (
          <>
            {points.length > 1 && (
              <path
                d={`${polyline([[x(0), points[0][1]], ...points, [x(0), points[points.length - 1][1]]])}Z`}
                fill={sea.tint3}
                fillOpacity={0.8}
              />
            )}
            <Depths y={y} x={x(0)} width={width} height={height} />
            <text x={width - 4} y={height - 5} textAnchor="end" fontSize={TYPE.mark} fill={sea.ink2}>
              {found ? `−${RAISED_DB} to +${RAISED_DB} dB` : unit.on ? 'measuring…' : 'off'}
            </text>
          </>
        );
      }}
    </Frame>
  );
}

/** What comes of a single short hit, over time: level in dB falling downwards. */
function Impulse({ unit }: { readonly unit: GritUnit }) {
  const tempoBpm = useSound(({ ground }) => ground.tempoBpm);
  const levels = useMemo(() => {
    const hit = new Float32Array(RATE * LOOK_S);
    hit[0] = 1;
    const chain = {
      format: CHAIN_FORMAT,
      formatVersion: CHAIN_VERSION,
      name: '',
      units: [{ ...unit, on: true }],
      figures: null,
    } as const;
    const sides = runGrit({ ...chain, units: [...chain.units] }, [hit], { sampleRateHz: RATE, tempoBpm });
    return Array.from({ length: 240 }, (_, i) => {
      const [from, to] = [Math.floor((i * hit.length) / 240), Math.floor(((i + 1) * hit.length) / 240)];
      let peak = 0;
      for (const side of sides) for (let k = from; k < to; k++) peak = Math.max(peak, Math.abs(side[k]));
      return dB(peak);
    });
  }, [unit, tempoBpm]);
  return (
    <Frame label="What comes of a hit over time">
      {(width, height) => {
        const x = scaleLinear()
          .domain([0, levels.length])
          .range([2, width - 2]);
        const y = scaleLinear()
          .domain([-72, 0])
          .range([height - 3, 3])
          .clamp(true);
        return (
          <>
            {[0.1, 0.2, 0.3, 0.4, 0.5].map((s) => (
              <path
                key={s}
                d={`M${x((s / LOOK_S) * levels.length)} 0V${height}`}
                stroke={sea.sheet}
                strokeWidth={1.2}
              />
            ))}
            <path
              d={levels
                .map((db, i) => `M${x(i + 0.5).toFixed(1)} ${y(-72).toFixed(1)}V${y(db).toFixed(1)}`)
                .join('')}
              stroke={sea.tint5}
              strokeWidth={1}
            />
            <text x={width - 4} y={14} textAnchor="end" fontSize={TYPE.mark} fill={sea.ink2}>
              {LOOK_S * 1000} ms
            </text>
          </>
        );
      }}
    </Frame>
  );
}
