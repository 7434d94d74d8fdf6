import { unitById, type UnitPlace } from '@abyssal/core';
import { Box } from '@mui/material';
import { useEffect, useMemo } from 'react';
import { ChainBoard } from '../../chains/ChainBoard';
import { ChainStrip } from '../../chains/ChainStrip';
import { ChainTools } from '../../chains/ChainTools';
import { UnitPanel } from '../../chains/UnitPanel';
import { placeKey } from '../../chains/place-key';
import { Columns } from '../../controls/Columns';
import { Panel } from '../../controls/Panel';
import { lookAtChain } from '../../sounding/chain-figures';
import { useDocument } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { BandList } from './BandList';

const AFTER: UnitPlace = { in: 'after' };
const CLEAN: UnitPlace = { in: 'clean path' };

/** All that happens by bands: the bands with their chains, the chain after their sum, and the unit that is looked at. */
export function GritStation() {
  const document = useDocument();
  const { bands, cleanPath, after } = document.grit;
  const places = useMemo<UnitPlace[]>(
    () => [
      ...bands.map(({ id }): UnitPlace => ({ in: 'band', id })).reverse(),
      ...(cleanPath.on ? [CLEAN] : []),
      AFTER,
    ],
    [bands, cleanPath.on],
  );
  const wanted = useView((state) => state.unitId);
  const found = wanted === null ? null : unitById(document, wanted);
  const first = [...bands].reverse().find(({ units }) => units.length > 0);
  // What was chosen in Layers stands there.
  const chosen =
    found && found.place.in !== 'layer'
      ? found
      : first
        ? { unit: first.units[0], place: { in: 'band', id: first.id } as const }
        : after.length > 0
          ? { unit: after[0], place: AFTER }
          : null;
  const place = chosen?.place ?? places[0];
  const key = placeKey(place);
  const looked = places.find((each) => placeKey(each) === key) ?? AFTER;
  useEffect(() => lookAtChain(looked), [key]); // eslint-disable-line react-hooks/exhaustive-deps
  return (
    <ChainBoard places={places}>
      <Box sx={{ display: 'grid', gap: '10px' }}>
        <BandList />
        <Columns of="minmax(0, 3fr) minmax(0, 2fr)">
          {chosen ? (
            <UnitPanel key={chosen.unit.id} unit={chosen.unit} place={chosen.place} />
          ) : (
            <Panel title="No units yet">
              <Box sx={{ color: sea.ink2 }}>
                Add one to a band with +: a tube or a fold roughens, a filter moves, a hall makes room.
              </Box>
            </Panel>
          )}
          <Box sx={{ display: 'grid', gap: '10px' }}>
            <Panel title="After the sum">
              <ChainStrip place={AFTER} empty="nothing yet" />
            </Panel>
            <ChainTools place={looked} />
          </Box>
        </Columns>
      </Box>
    </ChainBoard>
  );
}
