import { MACRO_IDS } from '@abyssal/core';
import { Box } from '@mui/material';
import { Columns } from '../../controls/Columns';
import { useSound } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { ControllersPanel } from '../../midi/ControllersPanel';
import { viewOf } from './kinds';
import { LanesPanel } from './LanesPanel';
import { LinksPanel } from './LinksPanel';
import { MacroPanel, MacroRows } from './Macros';
import { MoverList } from './MoverList';

/** What makes the sound move: movers, macros, lanes, and what they move. */
export function MotionStation() {
  const movers = useSound((sound) => sound.movers);
  const wanted = useView((state) => state.moverId);
  const macro = wanted === null ? -1 : MACRO_IDS.indexOf(wanted);
  const index = Math.max(
    0,
    movers.findIndex(({ id }) => id === wanted),
  );
  const mover = movers.at(index);
  const MoverPanel = mover ? viewOf(mover).Panel : null;
  return (
    <Columns of="216px minmax(0, 1fr)">
      <Box sx={{ display: 'grid', gap: '10px', alignContent: 'start' }}>
        <MoverList selected={macro >= 0 || !mover ? null : mover.id} />
        <MacroRows />
      </Box>
      <Box sx={{ display: 'grid', gap: '10px', alignContent: 'start' }}>
        {macro >= 0 ? (
          <MacroPanel key={macro} index={macro} />
        ) : (
          mover &&
          MoverPanel && (
            <>
              <MoverPanel key={mover.id} index={index} mover={mover} />
              <LinksPanel moverId={mover.id} />
            </>
          )
        )}
        <LanesPanel />
        <ControllersPanel />
      </Box>
    </Columns>
  );
}
