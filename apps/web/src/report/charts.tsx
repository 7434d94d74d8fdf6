import { noteName, parseNote, plain, type SoundingFile } from '@abyssal/core';
import type { ReactNode } from 'react';
import { polyline } from '../charts/polyline';
import { PAPER } from '../theme/sea';
import { FONT, NUMERALS } from '../theme/theme';
import { TYPE } from '../theme/type';

// Charts of a page that is printed and handed out: on paper whatever the scheme, with their colours and fonts written into them.

interface ChartProps {
  readonly file: SoundingFile;
}

/** A drawing with a title for whoever cannot see it. */
function Drawing({
  name,
  label,
  width,
  height,
  children,
}: {
  readonly name: string;
  readonly label: string;
  readonly width: number;
  readonly height: number;
  readonly children: ReactNode;
}) {
  return (
    <svg
      xmlns="http://www.w3.org/2000/svg"
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label={label}
      data-chart={name}
      fontFamily={FONT}
      style={{ maxWidth: '100%', height: 'auto', display: 'block' }}
    >
      <title>{label}</title>
      {children}
    </svg>
  );
}

const WIDTH = 640;
const ROW = 20;
const FILLS = { felt: PAPER.tint5, implied: PAPER.tint2, lost: PAPER.sheet, unknown: PAPER.sheet } as const;
const INKS = { felt: PAPER.onInk, implied: PAPER.ink, lost: PAPER.short, unknown: PAPER.ink2 } as const;
const WORDS = { felt: 'felt', implied: 'implied', lost: '✕ lost', unknown: '–' } as const;
const RANK = { lost: 0, implied: 1, felt: 2 } as const;

/** What is heard of every pitch on every system: of its notes the one that is heard least. */
export function SystemsMap({ file: { systems } }: ChartProps) {
  const names = [...new Set(systems[0]?.notes.map(({ note }) => note) ?? [])].sort(
    (a, b) => (parseNote(a) ?? 0) - (parseNote(b) ?? 0),
  );
  const left = 130;
  const wide = (WIDTH - left) / Math.max(1, names.length);
  return (
    <Drawing
      name="systems"
      label="Heard on each system, note by note"
      width={WIDTH}
      height={ROW * (systems.length + 1)}
    >
      {names.map((name, n) => (
        <text
          key={name}
          x={left + wide * (n + 0.5)}
          y={14}
          textAnchor="middle"
          fontSize={TYPE.control}
          fontFamily={NUMERALS}
          fontStyle="italic"
          fill={PAPER.ink2}
        >
          {noteName(parseNote(name) ?? 0)}
        </text>
      ))}
      {systems.map(({ id, name, matters, notes }, s) => (
        <g key={id} transform={`translate(0 ${ROW * (s + 1)})`}>
          <text y={14} fontSize={TYPE.control} fill={matters ? PAPER.ink : PAPER.ink2}>
            {name}
            {matters ? '' : ' (left out)'}
          </text>
          {names.map((note, n) => {
            const verdicts = notes.flatMap((each) =>
              each.note === note && each.verdict ? [each.verdict] : [],
            );
            const worst =
              verdicts.length > 0 ? verdicts.reduce((a, b) => (RANK[b] < RANK[a] ? b : a)) : 'unknown';
            return (
              <g key={note} transform={`translate(${left + wide * n} 0)`}>
                <rect
                  x={1}
                  y={1}
                  width={Math.max(1, wide - 2)}
                  height={ROW - 2}
                  fill={FILLS[worst]}
                  stroke={worst === 'lost' ? PAPER.short : 'none'}
                  strokeDasharray="3 2"
                />
                {wide >= 40 && (
                  <text x={wide / 2} y={14} textAnchor="middle" fontSize={TYPE.note} fill={INKS[worst]}>
                    {WORDS[worst]}
                  </text>
                )}
              </g>
            );
          })}
        </g>
      ))}
    </Drawing>
  );
}

const FULL_DB = 8;

/** What is lost in mono, by octaves, the deepest at the bottom. */
export function MonoBars({ file: { mono } }: ChartProps) {
  const bands = [...mono.bands].reverse();
  const [left, width] = [44, 300];
  return (
    <Drawing
      name="mono"
      label="Lost when summed to mono, dB by octaves"
      width={width}
      height={ROW * bands.length}
    >
      {bands.map(({ centreHz, lossDb }, b) => {
        const share = lossDb === null ? 0 : Math.min(1, -lossDb / FULL_DB);
        return (
          <g key={centreHz} transform={`translate(0 ${ROW * b})`}>
            <text x={left - 8} y={14} textAnchor="end" fontSize={TYPE.note} fill={PAPER.ink2}>
              {centreHz >= 1000 ? `${centreHz / 1000}k` : Math.floor(centreHz)}
            </text>
            <rect x={left} y={3} width={width - left - 44} height={ROW - 6} fill={PAPER.tint1} />
            <rect x={left} y={3} width={(width - left - 44) * share} height={ROW - 6} fill={PAPER.tint5} />
            <text
              x={width - 4}
              y={14}
              textAnchor="end"
              fontSize={TYPE.note}
              fontFamily={NUMERALS}
              fontStyle="italic"
              fill={PAPER.ink}
            >
              {lossDb === null ? '–' : plain(lossDb)}
            </text>
          </g>
        );
      })}
    </Drawing>
  );
}

const RANGE_DB = 70;

/** The long-term spectrum of the bass by thirds of an octave, over depth: the sea bed at the bottom. */
export function SpectrumOverDepth({ file: { spectrum } }: ChartProps) {
  const [width, height, left] = [300, ROW * 9, 44];
  const { centresHz, bassDb } = spectrum;
  const top = 10 * Math.ceil(Math.max(...bassDb, -60) / 10);
  const y = (hz: number) => height - 8 - ((height - 16) * Math.log2(hz / 22)) / Math.log2(18000 / 22);
  const x = (db: number) =>
    left + (width - left - 8) * Math.min(1, Math.max(0, (db - top + RANGE_DB) / RANGE_DB));
  const points = centresHz.map((hz, i) => [x(bassDb[i]), y(hz)] as const);
  return (
    <Drawing
      name="spectrum"
      label="Long-term spectrum of the bass by thirds of an octave"
      width={width}
      height={height}
    >
      <rect x={left} width={width - left - 8} height={height} fill={PAPER.tint1} />
      <path
        d={`${polyline([[left, y(centresHz[0])], ...points, [left, y(centresHz[centresHz.length - 1])]])}Z`}
        fill={PAPER.tint4}
        stroke={PAPER.tint6}
      />
      {[50, 100, 500, 1000, 5000, 10000].map((hz) => (
        <text key={hz} x={left - 8} y={y(hz) + 4} textAnchor="end" fontSize={TYPE.note} fill={PAPER.ink2}>
          {hz >= 1000 ? `${hz / 1000}k` : hz}
        </text>
      ))}
      {[0.25, 0.5, 0.75].map((share) => (
        <line
          key={share}
          x1={left + (width - left - 8) * share}
          x2={left + (width - left - 8) * share}
          y2={height}
          stroke={PAPER.sheet}
        />
      ))}
      <text x={width - 10} y={height - 4} textAnchor="end" fontSize={TYPE.mark} fill={PAPER.ink2}>
        to {top} dB
      </text>
    </Drawing>
  );
}
