import { unitById, type UnitPlace } from '@abyssal/core';
import { Box } from '@mui/material';
import { useEffect } from 'react';
import { ChainBoard } from '../../chains/ChainBoard';
import { ChainStrip } from '../../chains/ChainStrip';
import { ChainTools } from '../../chains/ChainTools';
import { UnitPanel } from '../../chains/UnitPanel';
import { lookAtChain } from '../../sounding/chain-figures';
import { useSound } from '../../state/document-store';
import { useView } from '../../state/view-store';

/** A layer's own units, before its level: the same chain and the same unit as in Grit. */
export function LayerUnits({ layerId }: { readonly layerId: string }) {
  const place: UnitPlace = { in: 'layer', id: layerId };
  const wanted = useView((state) => state.unitId);
  const unit = useSound((sound) => {
    const found = wanted === null ? null : unitById(sound, wanted);
    const here = found?.place.in === 'layer' && found.place.id === layerId;
    return here ? found.unit : (sound.layers.find(({ id }) => id === layerId)?.chain.at(0) ?? null);
  });
  useEffect(() => lookAtChain({ in: 'layer', id: layerId }), [layerId]);
  return (
    <ChainBoard places={[place]}>
      <Box sx={{ display: 'grid', gap: '8px' }}>
        <ChainStrip place={place} empty="none yet: up to four, in front of the layer’s level" />
        {unit && <UnitPanel key={unit.id} unit={unit} place={place} />}
        <ChainTools place={place} />
      </Box>
    </ChainBoard>
  );
}
