import { Box } from '@mui/material';
import { Columns } from '../../controls/Columns';
import { ParameterRow } from '../../controls/ParameterRow';
import { useSound } from '../../state/document-store';
import { shownLayer, useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { ActsPanel } from './ActsPanel';
import { FilterPanel } from './FilterPanel';
import { LayerBar } from './LayerBar';
import { LayerTabs } from './LayerTabs';
import { TonePanel } from './TonePanel';
import { VoicePanel } from './VoicePanel';

/** What the sound is made of: a stack of layers by depth. */
export function Layers() {
  const wanted = useView((state) => state.layerId);
  const index = useSound((sound) => shownLayer(sound, wanted));
  const id = useSound(({ layers }) => layers[index].id);
  const name = useSound(({ layers }) => layers[index].name);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: '8px' }}>
      <Box sx={{ display: 'flex', alignItems: 'flex-end', justifyContent: 'space-between', gap: 1, borderBottom: `1px solid ${sea.rule}` }}>
        <LayerTabs chosen={id} />
        <Box sx={{ pb: '3px' }}><LayerBar index={index} /></Box>
      </Box>
      <Columns>
        <Box sx={{ display: 'grid', gap: '8px' }}>
          <TonePanel index={index} />
          <Box sx={{ px: '12px' }}>
            <Box sx={{ fontSize: 12.5, color: sea.ink2 }}>{name}, all its tones</Box>
            <ParameterRow path={['layers', index, 'levelDb']} of={name} label="Level" />
            <ParameterRow path={['layers', index, 'panPct']} of={name} label="Pan" />
          </Box>
        </Box>
        <Box sx={{ display: 'grid', gap: '8px' }}>
          <ActsPanel index={index} />
          <FilterPanel index={index} />
          <VoicePanel index={index} />
        </Box>
      </Columns>
    </Box>
  );
}
