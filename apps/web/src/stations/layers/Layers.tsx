import { Box } from '@mui/material';
import { Columns } from '../../controls/Columns';
import { useSound } from '../../state/document-store';
import { shownLayer, useView } from '../../state/view-store';
import { ActsPanel } from './ActsPanel';
import { FilterPanel } from './FilterPanel';
import { Strata } from './Strata';
import { TonePanel } from './TonePanel';
import { VoicePanel } from './VoicePanel';

/** What the sound is made of: a stack of layers by depth. */
export function LayersStation() {
  const wanted = useView((state) => state.layerId);
  const index = useSound((sound) => shownLayer(sound, wanted));
  const id = useSound(({ layers }) => layers[index].id);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: '8px' }}>
      <Strata chosen={id} />
      <Columns>
        <TonePanel index={index} />
        <Box sx={{ display: 'grid', gap: '8px' }}>
          <ActsPanel index={index} />
          <FilterPanel index={index} />
          <VoicePanel index={index} />
        </Box>
      </Columns>
    </Box>
  );
}
