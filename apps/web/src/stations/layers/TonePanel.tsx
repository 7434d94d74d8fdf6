import { seriesOf, type Tone } from '@abyssal/core';
import { Box } from '@mui/material';
import { useMemo } from 'react';
import { Choice } from '../../controls/Choice';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { edit, useDocument } from '../../state/document-store';
import { sea } from '../../theme/sea';

const SHAPES = ['sine', 'triangle', 'saw', 'square', 'pulse'] as const;
const PARTIALS = 48;
const POINTS = 240;

/** One cycle of a tone as it sounds: the sum of its first harmonics, from its start phase. */
function cycle({ shape, widthPct, startPhaseDeg, startPhase }: Tone): number[] {
  const harmonic = seriesOf(shape, widthPct / 100);
  const start = startPhase === 'locked' ? startPhaseDeg / 360 : 0;
  const values = Array.from({ length: POINTS + 1 }, (_, i) => {
    const t = 2 * Math.PI * (i / POINTS + start);
    let sum = 0;
    for (let n = 1; n <= PARTIALS; n++) {
      const { sine, cosine } = harmonic(n);
      // Lanczos factors keep the drawing from ringing at its edges.
      const x = (Math.PI * n) / (PARTIALS + 1);
      sum += (Math.sin(x) / x) * (sine * Math.sin(n * t) + cosine * Math.cos(n * t));
    }
    return sum;
  });
  const top = Math.max(...values.map(Math.abs));
  return values.map((value) => value / top);
}

function CyclePicture({ tone }: { readonly tone: Tone }) {
  const path = useMemo(() => cycle(tone).map((value, i) => `${i === 0 ? 'M' : 'L'}${i} ${(32 - 27 * value).toFixed(1)}`).join(''), [tone]);
  return (
    <svg viewBox={`0 0 ${POINTS} 64`} preserveAspectRatio="none" width="100%" height="64" role="img" aria-label={`One cycle of a ${tone.shape}, from its start phase`} style={{ background: sea.tint1 }}>
      <line x2={POINTS} y1={32} y2={32} stroke={sea.sheet} vectorEffect="non-scaling-stroke" />
      <path d={path} fill="none" stroke={sea.tint6} strokeWidth={1.6} vectorEffect="non-scaling-stroke" />
    </svg>
  );
}

/** The tone of a layer, and its level and place. */
export function TonePanel({ index }: { readonly index: number }) {
  const layer = useDocument().layers[index];
  const { tone, name } = layer;
  const at = ['layers', index, 'tone'] as const;
  return (
    <Panel title="Tone" aside={<Choice label="Shape" options={SHAPES} value={tone.shape} onChange={(shape) => { edit(`${name} · shape`, (draft) => { draft.layers[index].tone.shape = shape; }); }} />}>
      <Box sx={{ mb: '6px' }}><CyclePicture tone={tone} /></Box>
      {tone.shape === 'pulse' && <ParameterRow path={[...at, 'widthPct']} of={name} />}
      {(['octave', 'semitones', 'cents', 'copies', 'detuneCents', 'spreadPct'] as const).map((field) => (
        <ParameterRow key={field} path={[...at, field]} of={name} disabled={tone.copies === 1 && (field === 'detuneCents' || field === 'spreadPct')} />
      ))}
      <ParameterRow path={[...at, 'startPhaseDeg']} of={name} disabled={tone.startPhase === 'free'} />
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, height: 25 }}>
        <Box sx={{ width: 96, color: sea.ink2, fontSize: 13.5 }}>Phase</Box>
        <Choice label="Phase" options={[{ value: 'locked', label: 'locked to each note' }, { value: 'free', label: 'runs free' }]} value={tone.startPhase} onChange={(startPhase) => { edit(`${name} · phase`, (draft) => { draft.layers[index].tone.startPhase = startPhase; }); }} />
      </Box>
      <ParameterRow path={['layers', index, 'levelDb']} of={name} />
      <ParameterRow path={['layers', index, 'panPct']} of={name} />
    </Panel>
  );
}
