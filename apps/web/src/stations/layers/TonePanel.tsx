import { actingTones, type ToneKind } from '@abyssal/core';
import { Box, ToggleButton } from '@mui/material';
import { useState } from 'react';
import { Choice } from '../../controls/Choice';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { Row } from '../../controls/Row';
import { edit, useDocument } from '../../state/document-store';
import { toggleSolo } from '../../state/solo';
import { useView } from '../../state/view-store';
import { withKind } from './layer-edits';
import { FmEditor } from './tones/FmEditor';
import { FramesEditor } from './tones/FramesEditor';
import { HarmonicsEditor } from './tones/HarmonicsEditor';
import { NoiseEditor } from './tones/NoiseEditor';
import { SampleEditor } from './tones/SampleEditor';
import { ShapeEditor } from './tones/ShapeEditor';
import { VowelEditor } from './tones/VowelEditor';

const KINDS: readonly { readonly value: ToneKind; readonly label: string }[] = [
  { value: 'shape', label: 'Shape' }, { value: 'harmonics', label: 'Harmonics' }, { value: 'frames', label: 'Frames' }, { value: 'fm', label: 'FM' },
  { value: 'vowel', label: 'Vowel' }, { value: 'noise', label: 'Noise' }, { value: 'sample', label: 'Sample' },
];
const EDITORS = { shape: ShapeEditor, harmonics: HarmonicsEditor, frames: FramesEditor, fm: FmEditor, vowel: VowelEditor, noise: NoiseEditor, sample: SampleEditor } as const;
const LAWS = ['even', 'inward', 'outward', 'scattered'] as const;
const COPIED: readonly ToneKind[] = ['shape', 'harmonics', 'frames'];

/** One of the three tones of a layer: what makes it, how it is tuned, and its copies. */
export function TonePanel({ index }: { readonly index: number }) {
  const layer = useDocument().layers[index];
  const t = useView((state) => state.tone);
  const solo = useView((state) => state.solo);
  const [part, setPart] = useState<'tuning' | 'copies'>('tuning');
  const tone = layer.tones[t];
  const { kind } = tone.source;
  const of = `${layer.name} tone ${t + 1}`;
  const at = ['layers', index, 'tones', t] as const;
  const name = `${layer.id}.${t}`;
  const change = (what: string, recipe: (tone: (typeof layer.tones)[number]) => void) => { edit(`${of} · ${what}`, (draft) => { recipe(draft.layers[index].tones[t]); }); };
  const Editor = EDITORS[kind];
  const alone = tone.source.kind === 'harmonics' && (tone.source.stretchPct !== 0 || tone.source.ringMs > 0);
  const acting = actingTones(layer)[t];
  return (
    <Panel
      label="Tone"
      title={(
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Choice label="Tone" options={[0, 1, 2].map((n) => ({ value: String(n), label: `${n + 1}${layer.tones[n].on ? '' : ' ·'}` }))} value={String(t)} onChange={(value) => { useView.setState({ tone: Number(value) }); }} />
          <ToggleButton value="on" size="small" selected={tone.on} onChange={() => { change(tone.on ? 'off' : 'on', (draft) => { draft.on = !draft.on; }); }} aria-label={`Tone ${t + 1} on`}>{tone.on ? 'on' : 'off'}</ToggleButton>
          <ToggleButton value="solo" size="small" selected={solo.includes(name)} onChange={() => { useView.setState({ solo: toggleSolo(solo, name) }); }} aria-label={`Tone ${t + 1} alone`}>alone</ToggleButton>
        </Box>
      )}
    >
      <Box sx={{ mb: '6px', '& .MuiToggleButtonGroup-root': { display: 'flex' }, '& .MuiToggleButton-root': { flex: 1, px: '2px' } }}>
        <Choice label="Kind of tone" options={KINDS} value={kind} onChange={(next) => { change(`kind ${next}`, (draft) => { Object.assign(draft, withKind(tone, next, name)); }); }} />
      </Box>
      <Box sx={{ opacity: tone.on ? 1 : 0.5 }}>
        <Editor key={`${name} ${kind}`} index={index} tone={t} />
        <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', m: '6px 0 2px' }}>
          <Choice label="Part of the tone" options={['tuning', 'copies']} value={part} onChange={setPart} />
          {part === 'tuning' && (
            <Box sx={{ display: 'flex', gap: '4px' }}>
              <ToggleButton size="small" value="fifth" onClick={() => { change('a fifth up', (draft) => { draft.semitones = draft.semitones === 7 ? 0 : 7; }); }} selected={tone.semitones === 7}>fifth</ToggleButton>
              <ToggleButton size="small" value="down" onClick={() => { change('an octave down', (draft) => { draft.octave = Math.max(-4, draft.octave - 1); }); }}>octave down</ToggleButton>
              <Choice label="Pitch in" options={[{ value: 'note', label: 'note' }, { value: 'hertz', label: 'Hz' }]} value={tone.pitchIn} onChange={(pitchIn) => { change('pitch', (draft) => { draft.pitchIn = pitchIn; }); }} />
            </Box>
          )}
        </Box>
        {part === 'tuning' ? (
          <>
            {tone.pitchIn === 'hertz' ? <ParameterRow path={[...at, 'fixedHz']} of={of} /> : (
              <>
                <ParameterRow path={[...at, 'octave']} of={of} />
                <ParameterRow path={[...at, 'semitones']} of={of} />
                <ParameterRow path={[...at, 'cents']} of={of} />
              </>
            )}
            <ParameterRow path={[...at, 'levelDb']} of={of} label="Level" />
            <ParameterRow path={[...at, 'panPct']} of={of} label="Pan" />
            <ParameterRow path={[...at, 'startPhaseDeg']} of={of} disabled={tone.startPhase === 'free'} />
            <Row label="Phase"><Choice label="Phase" options={[{ value: 'locked', label: 'locked to each note' }, { value: 'free', label: 'runs free' }]} value={tone.startPhase} onChange={(startPhase) => { change('phase', (draft) => { draft.startPhase = startPhase; }); }} /></Row>
          </>
        ) : (
          <Box sx={{ opacity: COPIED.includes(kind) && !alone ? 1 : 0.45 }}>
            <ParameterRow path={[...at, 'copies']} of={of} disabled={!COPIED.includes(kind) || alone} />
            <ParameterRow path={[...at, 'detuneCents']} of={of} disabled={tone.copies === 1} />
            <ParameterRow path={[...at, 'spreadPct']} of={of} disabled={tone.copies === 1 || acting} />
            <ParameterRow path={[...at, 'driftCents']} of={of} />
            <ParameterRow path={[...at, 'driftHz']} of={of} disabled={tone.driftCents === 0} />
            <Row label="Law"><Choice label="Law of the detune" options={LAWS} value={tone.detuneLaw} onChange={(detuneLaw) => { change('detune law', (draft) => { draft.detuneLaw = detuneLaw; }); }} /></Row>
            <Row label="Phases"><Choice label="Phases of the copies" options={['scattered', 'together', 'own']} value={tone.copyPhase} onChange={(copyPhase) => { change('phases of the copies', (draft) => { draft.copyPhase = copyPhase; if (copyPhase === 'own') draft.copyPhasesDeg = Array.from({ length: 12 }, (_, c) => draft.copyPhasesDeg[c] ?? Math.round(((c * 0.618034) % 1) * 360)); }); }} /></Row>
            {tone.copyPhase === 'own' && <Box sx={{ maxHeight: 75, overflowY: 'auto' }}>{Array.from({ length: tone.copies }, (_, c) => <ParameterRow key={c} path={[...at, 'copyPhasesDeg', c]} of={of} label={`Copy ${c + 1}`} />)}</Box>}
          </Box>
        )}
      </Box>
    </Panel>
  );
}
