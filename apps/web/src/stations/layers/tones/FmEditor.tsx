import { formatValue, parameter } from '@abyssal/core';
import { Box } from '@mui/material';
import { useState } from 'react';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { ValueField } from '../../../controls/ValueField';
import { useSound } from '../../../state/document-store';
import { sea } from '../../../theme/sea';
import { useTone, type ToneProps } from './use-tone';

const AMOUNT = parameter('layers.*.tones.*.source.fm.matrix.*');

/** Four oscillators and who steers whom: a table of amounts (rows steer columns, the diagonal itself), and the one that is chosen. */
export function FmEditor(props: ToneProps) {
  const { source, of, at, change } = useTone<'fm'>(props);
  const a4Hz = useSound((sound) => sound.ground.a4Hz);
  const [chosen, setChosen] = useState(0);
  const [part, setPart] = useState<'wave' | 'envelope'>('wave');
  const oscillator = source.oscillators[chosen];
  const own = [...at, 'oscillators', chosen] as const;
  return (
    <>
      <Box component="table" aria-label={`${of}: amounts by which oscillators steer each other`} sx={{ width: '100%', borderCollapse: 'collapse', fontSize: 12.5, color: sea.ink2, '& td, & th': { p: '1px 2px', fontWeight: 400, textAlign: 'center' } }}>
        <thead><tr><th /><th>ratio</th>{[1, 2, 3, 4].map((n) => <th key={n}>into {n}</th>)}<th>out</th></tr></thead>
        <tbody>
          {source.oscillators.map((each, o) => (
            <tr key={o} style={{ background: o === chosen ? sea.tint1 : undefined }}>
              <td><Box component="button" aria-pressed={o === chosen} onClick={() => { setChosen(o); }} sx={{ font: 'inherit', border: 0, bgcolor: 'transparent', color: sea.ink, fontWeight: o === chosen ? 600 : 400, cursor: 'pointer', opacity: each.on ? 1 : 0.5 }}>{o + 1} {each.wave}</Box></td>
              <td>{(each.ratio * source.scale).toFixed(each.ratio * source.scale < 10 ? 2 : 1)}</td>
              {[0, 1, 2, 3].map((t) => {
                const place = o * 4 + t;
                const amount = source.matrix[place];
                return (
                  <td key={t} style={{ background: amount > 0 ? `color-mix(in srgb, ${sea.tint3} ${Math.round(20 + 6 * amount)}%, transparent)` : undefined }}>
                    <ValueField row={AMOUNT} label={`${of} ${o + 1} into ${t === o ? 'itself' : t + 1}`} value={amount} a4Hz={a4Hz} width={40} onChange={(value) => { change(`${o + 1} into ${t + 1}`, (draft) => { draft.matrix[place] = value; }); }} />
                  </td>
                );
              })}
              <td>{formatValue(parameter('layers.*.tones.*.source.fm.oscillators.*.levelPct'), each.levelPct)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      <ParameterRow path={[...at, 'scale']} of={of} />
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', m: '4px 0 2px' }}>
        <Choice label="Part of the oscillator" options={[{ value: 'wave', label: `oscillator ${chosen + 1}` }, { value: 'envelope', label: 'its envelope' }]} value={part} onChange={setPart} />
        <Choice label="Wave" options={['sine', 'triangle', 'saw', 'square']} value={oscillator.wave} onChange={(wave) => { change('wave', (draft) => { draft.oscillators[chosen].wave = wave; }); }} />
      </Box>
      {part === 'wave'
        ? (['ratio', 'fineCents', 'levelPct', 'velocityPct'] as const).map((field) => <ParameterRow key={field} path={[...own, field]} of={`${of} oscillator ${chosen + 1}`} />)
        : (['attackMs', 'decayMs', 'sustainPct', 'releaseMs'] as const).map((field) => <ParameterRow key={field} path={[...own, 'envelope', field]} of={`${of} oscillator ${chosen + 1}`} />)}
    </>
  );
}
