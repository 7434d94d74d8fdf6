import { duckCurveDb } from '@abyssal/core';
import { Box } from '@mui/material';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { edit, useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';

const SHOWN_MS = 600;
const DEEPEST_DB = 24;

/** Ducking of the bass by the kick's beats: its curve and its numbers. */
export function DuckPanel() {
  const duck = useSound((sound) => sound.duck);
  const path = Array.from({ length: 201 }, (_, i) => {
    const db = Math.max(-DEEPEST_DB, duckCurveDb(duck, (i / 200) * SHOWN_MS));
    return `${i === 0 ? 'M' : 'L'}${i} ${(3 - (db / DEEPEST_DB) * 44).toFixed(1)}`;
  }).join('');
  return (
    <Panel label="Ducking" title={<ToggleTitle label="Duck the bass under the kick" on={duck.on} onToggle={() => { edit('ducking', (draft) => { draft.duck.on = !duck.on; }); }} />} aside={`${SHOWN_MS} ms after a beat`}>
      <Box component="svg" viewBox="0 0 200 50" preserveAspectRatio="none" role="img" aria-label={`The bass goes down by ${duck.amountDb} dB and is back after ${Math.round(duck.attackMs + duck.holdMs + duck.returnMs)} ms`} sx={{ width: '100%', height: 44, bgcolor: sea.tint1, opacity: duck.on ? 1 : 0.5 }}>
        <path d={`${path}L200 50L0 50Z`} fill={sea.tint2} />
        <path d={path} fill="none" stroke={sea.ink} strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(2, minmax(0, 1fr))', columnGap: 2 }}>
        {(['amountDb', 'attackMs', 'holdMs', 'returnMs', 'bend'] as const).map((field) => <ParameterRow key={field} path={['duck', field]} of="Duck" labelWidth={72} linkRoom={false} disabled={!duck.on} />)}
      </Box>
    </Panel>
  );
}
