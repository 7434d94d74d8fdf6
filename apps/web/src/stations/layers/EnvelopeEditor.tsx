import { Box } from '@mui/material';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { edit, useDocument } from '../../state/document-store';
import { EnvelopeDrawing, type EnvelopeTimes } from './EnvelopeDrawing';

const FIELDS = ['attackMs', 'decayMs', 'sustainPct', 'releaseMs'] as const;

/** The loudness of a layer over the note: drawn by hand, or typed. */
export function EnvelopeEditor({ index }: { readonly index: number }) {
  const layer = useDocument().layers[index];
  const change = (field: keyof EnvelopeTimes, value: number) => {
    edit(`${layer.name} · loudness`, (draft) => { draft.layers[index].loudness[field] = value; }, `loudness ${layer.id} ${field}`);
  };
  return (
    <Panel title="Loudness over the note" aside="drag a line to bend it">
      <EnvelopeDrawing of={layer.name} times={layer.loudness} rowPrefix="layers.*.loudness" onChange={change} />
      <Box sx={{ mt: '4px' }}>{FIELDS.map((field) => <ParameterRow key={field} path={['layers', index, 'loudness', field]} of={layer.name} />)}</Box>
    </Panel>
  );
}
