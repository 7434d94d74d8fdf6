import { DEPTH_BANDS_HZ, KEY_NAMES, noteName, noteToHz, parameter, type DepthSpectra } from '@abyssal/core';
import { Box, Typography } from '@mui/material';
import { scaleLinear } from 'd3-scale';
import { area, curveBasis, line } from 'd3-shape';
import { memo, useId, type ComponentType } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { useSize } from '../controls/use-size';
import { useSounding } from '../sounding/sounding-store';
import { moveCleanPath } from '../state/band-moves';
import { useDocumentStore, useSound } from '../state/document-store';
import { ROLE_TINT, sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { NUMERALS } from '../theme/theme';
import { DepthHandle } from './DepthHandle';
import { LiveSpectrum } from './LiveSpectrum';
import { depthScale, SURFACE_HZ, type DepthPlot } from './depth-plot';

const MARKS = [
  [30, '30'],
  [50, '50'],
  [100, '100'],
  [200, '200'],
  [300, '300'],
  [500, '500'],
  [1000, '1k'],
  [2000, '2k'],
  [3000, '3k'],
  [5000, '5k'],
  [10000, '10k'],
] as const;
const LEFT = 44;
const RIGHT = 36;
const FLOOR_DB = -66;

const inRange = DEPTH_BANDS_HZ.map((hz, i) => [hz, i] as const).filter(([hz]) => hz <= SURFACE_HZ);

/**
 * Frequency as depth, from the sea bed at 20 Hz up to 16 kHz: bass by layer, the kick as a line, and what a
 * station brings to it.
 */
export function DepthChart({ Part }: { readonly Part?: ComponentType<DepthPlot> }) {
  const key = useSound(({ ground }) => ground.key);
  const a4Hz = useSound(({ ground }) => ground.a4Hz);
  const clean = useSound(({ grit }) => grit.cleanPath);
  const shown = useSounding((state) => state.shown);
  const [ref, { width, height }] = useSize<HTMLDivElement>();
  const clip = useId();
  const y = depthScale(height);
  const right = width - RIGHT;
  const roots = Array.from({ length: 9 }, (_, octave) => 24 + KEY_NAMES.indexOf(key) + 12 * octave).filter(
    (note) => noteToHz(note) < 13000,
  );
  const hzAt = (py: number) => y.invert(py);
  const loudestAt = shown ? loudestDepth(shown.depth.bass) : null;

  return (
    <Box
      component="section"
      aria-label="Depth chart"
      sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}
    >
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 1.5,
          p: '4px 10px',
          height: 30,
          fontSize: TYPE.note,
          color: sea.ink2,
        }}
      >
        <Typography
          component="h2"
          sx={{ fontFamily: NUMERALS, fontStyle: 'italic', fontSize: TYPE.name, color: sea.ink, mr: 'auto' }}
        >
          Depth
        </Typography>
        <Key colour={sea.kick} text="kick" />
        <Key colour={sea.tint6} text="bass" />
        {shown?.depth.backing && <Key colour={sea.watch} text="parts" />}
      </Box>
      <Box ref={ref} sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        {width > 0 && height > 0 && (
          <svg
            width={width}
            height={height}
            role="group"
            aria-label={`Mean level by depth in dB, 20 Hz to 16 kHz.${loudestAt ? ` The bass is loudest at ${Math.round(loudestAt)} Hz.` : ''}`}
          >
            <defs>
              <linearGradient id={clip} x1="0" y1="0" x2="0" y2="1">
                <stop offset="0" stopColor={sea.sheet} />
                <stop offset="0.45" stopColor={sea.tint1} />
                <stop offset="1" stopColor={sea.tint2} />
              </linearGradient>
            </defs>
            <rect x={LEFT} y={0} width={width - LEFT} height={height} fill={`url(#${clip})`} />
            {MARKS.map(([hz, text]) => (
              <g key={hz}>
                <line x1={LEFT} x2={width} y1={y(hz)} y2={y(hz)} stroke={sea.sheet} strokeOpacity={0.8} />
                <text x={LEFT - 8} y={y(hz) + 4} textAnchor="end" fontSize={TYPE.mark} fill={sea.ink2}>
                  {text}
                </text>
              </g>
            ))}
            {roots.map((note) => (
              <text
                key={note}
                x={width - 4}
                y={y(noteToHz(note, a4Hz)) + 4}
                textAnchor="end"
                fontSize={TYPE.mark}
                fill={sea.ink2}
                fontFamily={NUMERALS}
                fontStyle="italic"
              >
                {noteName(note)}
              </text>
            ))}
            {shown && <Spectra depth={shown.depth} width={width} height={height} />}
            {shown && <LiveSpectrum x={levelScale(shown.depth, width)} y={y} />}
            <line x1={LEFT} x2={LEFT} y1={0} y2={height} stroke={sea.ink} strokeWidth={1.5} />
            {clean.on && (
              <DepthHandle
                label="Clean path below"
                row={parameter('grit.cleanPath.frequencyHz')}
                value={clean.frequencyHz}
                hzAt={hzAt}
                y={y(clean.frequencyHz)}
                onChange={moveCleanPath}
              >
                <line
                  x1={LEFT}
                  x2={width}
                  y1={y(clean.frequencyHz)}
                  y2={y(clean.frequencyHz)}
                  stroke={sea.note}
                  strokeDasharray="5 3"
                  strokeWidth={1.2}
                />
                <rect
                  x={right - 56}
                  y={y(clean.frequencyHz) - 16}
                  width={60}
                  height={15}
                  fill={sea.sheet}
                  fillOpacity={0.85}
                />
                <text
                  x={right}
                  y={y(clean.frequencyHz) - 4}
                  textAnchor="end"
                  fontSize={TYPE.mark}
                  fill={sea.note}
                >
                  {Math.round(clean.frequencyHz)} Hz
                </text>
              </DepthHandle>
            )}
            {Part && <Part y={y} hzAt={hzAt} left={LEFT} right={right} />}
          </svg>
        )}
      </Box>
      <Box sx={{ p: '2px 10px 5px', fontSize: TYPE.mark, color: sea.ink2 }}>sea bed 20 Hz</Box>
    </Box>
  );
}

/** How far a level reaches from the left: as far as there is room at the loudest that was measured. */
function levelScale(depth: DepthSpectra, width: number) {
  const loudest = Math.max(...inRange.map(([, i]) => Math.max(depth.bass[i], depth.kick[i])));
  return scaleLinear()
    .domain([FLOOR_DB, Math.max(-30, loudest)])
    .range([LEFT, width - RIGHT])
    .clamp(true);
}

interface SpectraProps {
  readonly depth: DepthSpectra;
  readonly width: number;
  readonly height: number;
}

/**
 * What was measured: the bass by layer, filled, and the kick as a line. Drawn again only when it is measured
 * again.
 */
const Spectra = memo(function Spectra({ depth, width, height }: SpectraProps) {
  const roles = useDocumentStore(
    useShallow(({ document: sound }) => Object.fromEntries(sound!.layers.map(({ id, role }) => [id, role]))),
  );
  const y = depthScale(height);
  const x = levelScale(depth, width);
  const outline = (levels: ArrayLike<number>) =>
    area<readonly [number, number]>()
      .y(([hz]) => y(hz))
      .x0(LEFT)
      .curve(curveBasis)
      .x1(([, i]) => x(levels[i]))(inRange) ?? '';
  const trace = (levels: ArrayLike<number>) =>
    line<readonly [number, number]>()
      .y(([hz]) => y(hz))
      .x(([, i]) => x(levels[i]))
      .curve(curveBasis)(inRange) ?? '';
  return (
    <>
      {[...depth.layers].reverse().map(({ id, levels }) => (
        <path
          key={id}
          d={outline(levels)}
          fill={sea[ROLE_TINT[roles[id] ?? 'body']]}
          fillOpacity={roles[id] === 'sub' ? 0.9 : 0.8}
        />
      ))}
      {depth.backing && (
        <path
          d={trace(depth.backing)}
          fill="none"
          stroke={sea.watch}
          strokeWidth={1.2}
          strokeDasharray="3 2"
        />
      )}
      <path d={trace(depth.kick)} fill="none" stroke={sea.kick} strokeWidth={1.6} />
    </>
  );
});

function Key({ colour, text }: { readonly colour: string; readonly text: string }) {
  return (
    <Box component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: '5px' }}>
      <Box component="span" sx={{ width: 9, height: 9, bgcolor: colour }} />
      {text}
    </Box>
  );
}

function loudestDepth(levels: ArrayLike<number>): number {
  let most = 0;
  for (let i = 1; i < levels.length; i++) if (levels[i] > levels[most]) most = i;
  return DEPTH_BANDS_HZ[most];
}
