import { Box, Tab, Tabs, ToggleButton } from '@mui/material';
import { Columns } from '../../controls/Columns';
import { Choice } from '../../controls/Choice';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { edit, useDocument } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { ROLE_TINT, sea } from '../../theme/sea';
import { CleanAndClip } from './CleanAndClip';
import { EnvelopeEditor } from './EnvelopeEditor';
import { TonePanel } from './TonePanel';

const MODES = [{ value: 'low', label: 'low-pass' }, { value: 'high', label: 'high-pass' }, { value: 'band', label: 'band' }, { value: 'notch', label: 'notch' }] as const;
const SLOPES = [{ value: '12', label: '12 dB/oct' }, { value: '24', label: '24 dB/oct' }] as const;

/** What the sound is made of: a stack of layers by depth. */
export function Layers() {
  const { layers } = useDocument();
  const wanted = useView((state) => state.layerId);
  const index = Math.max(0, wanted === null ? layers.findIndex(({ role }) => role !== 'sub') : layers.findIndex(({ id }) => id === wanted));
  const layer = layers[index];
  const at = ['layers', index] as const;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: '10px' }}>
      <Box sx={{ display: 'flex', alignItems: 'flex-end', borderBottom: `1px solid ${sea.rule}` }}>
        <Tabs value={layer.id} onChange={(_event, id: string) => { useView.setState({ layerId: id }); }} aria-label="Layers" sx={{ minHeight: 31, '& .MuiTabs-indicator': { bgcolor: sea.note } }}>
          {[...layers].reverse().map(({ id, name, role, on }) => (
            <Tab key={id} value={id} sx={{ minHeight: 31, p: '0 14px', fontSize: 15, textTransform: 'none', opacity: on ? 1 : 0.5 }} label={<Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}><Box sx={{ width: 10, height: 10, bgcolor: sea[ROLE_TINT[role]] }} />{name}</Box>} />
          ))}
        </Tabs>
        <Box sx={{ flex: 1 }} />
        <Box sx={{ pb: '5px' }}>
          <ToggleButton value="on" selected={layer.on} onChange={() => { edit(`${layer.name} ${layer.on ? 'off' : 'on'}`, (draft) => { draft.layers[index].on = !layer.on; }); }}>{layer.on ? 'sounds' : 'silent'}</ToggleButton>
        </Box>
      </Box>
      <Columns>
        <Box sx={{ display: 'grid', gap: '10px' }}>
          <TonePanel index={index} />
          <EnvelopeEditor index={index} />
        </Box>
        <Box sx={{ display: 'grid', gap: '10px' }}>
          <Panel
            title={<ToggleTitle label="Filter" of={layer.name} on={layer.filter.on} onToggle={() => { edit(`${layer.name} · filter`, (draft) => { draft.layers[index].filter.on = !layer.filter.on; }); }} />} label="Filter"
            aside={<Choice label="Filter kind" options={MODES} value={layer.filter.mode} disabled={!layer.filter.on} onChange={(mode) => { edit(`${layer.name} · filter kind`, (draft) => { draft.layers[index].filter.mode = mode; }); }} />}
          >
            {(['cutoffHz', 'resonanceQ', 'driveDb', 'followPct'] as const).map((field) => <ParameterRow key={field} path={[...at, 'filter', field]} of={layer.name} disabled={!layer.filter.on} />)}
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, height: 25 }}>
              <Box sx={{ width: 96, color: sea.ink2, fontSize: 13.5 }}>Slope</Box>
              <Choice label="Slope" options={SLOPES} value={layer.filter.slope} disabled={!layer.filter.on} onChange={(slope) => { edit(`${layer.name} · slope`, (draft) => { draft.layers[index].filter.slope = slope; }); }} />
            </Box>
          </Panel>
          <Panel title="Voice" aside={<Choice label="Glide on" options={[{ value: 'ties', label: 'glide on ties' }, { value: 'always', label: 'always' }]} value={layer.voice.glide} onChange={(glide) => { edit(`${layer.name} · glide`, (draft) => { draft.layers[index].voice.glide = glide; }); }} />}>
            <ParameterRow path={[...at, 'voice', 'glideMs']} of={layer.name} />
            <ParameterRow path={[...at, 'voice', 'velocityPct']} of={layer.name} />
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, height: 25 }}>
              <Box sx={{ width: 96, color: sea.ink2, fontSize: 13.5 }}>Starts</Box>
              <Choice label="Starts" options={[{ value: 'each note', label: 'with each note' }, { value: 'legato', label: 'legato' }]} value={layer.voice.trigger} onChange={(trigger) => { edit(`${layer.name} · starts`, (draft) => { draft.layers[index].voice.trigger = trigger; }); }} />
            </Box>
          </Panel>
          <Panel title="Pitch drop" aside="from above the note">
            {(['semitones', 'timeMs', 'bend'] as const).map((field) => <ParameterRow key={field} path={[...at, 'drop', field]} of={layer.name} disabled={field !== 'semitones' && layer.drop.semitones === 0} />)}
          </Panel>
          <CleanAndClip />
        </Box>
      </Columns>
    </Box>
  );
}
