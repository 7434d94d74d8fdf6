import { moverTraces } from '@abyssal/core';
import { Box } from '@mui/material';
import { useDeferredValue, useMemo } from 'react';
import { Columns } from '../../controls/Columns';
import { Panel } from '../../controls/Panel';
import { useDocument } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { viewOf } from './kinds';
import { LinksPanel } from './LinksPanel';
import { MoverList } from './MoverList';

/** What makes the sound move: movers, and what they are linked to. */
export function MotionStation() {
  const document = useDocument();
  const wanted = useView((state) => state.moverId);
  const index = Math.max(
    0,
    document.movers.findIndex(({ id }) => id === wanted),
  );
  const mover = document.movers[index];
  const settled = useDeferredValue(document);
  const traces = useMemo(
    () => new Map(moverTraces(settled).map(({ id, values }) => [id, values])),
    [settled],
  );
  if (!mover) return <Panel title="Movers">This sound has no movers.</Panel>;
  const { Panel: MoverPanel } = viewOf(mover);
  return (
    <Columns of="206px minmax(0, 1fr)">
      <MoverList selected={mover.id} traces={traces} />
      <Box sx={{ display: 'grid', gap: '10px' }}>
        <MoverPanel index={index} mover={mover} />
        <LinksPanel moverId={mover.id} traces={traces} />
      </Box>
    </Columns>
  );
}
