import { Box } from '@mui/material';
import { useMemo, useState } from 'react';
import { Columns } from '../../controls/Columns';
import { useSounding } from '../../sounding/sounding-store';
import { useSound } from '../../state/document-store';
import { HarmonicsChart } from './HarmonicsChart';
import { heardColumns, leastHeard, type HeardCell } from './heard-map';
import { HeardPanel } from './HeardPanel';
import { MonoPanel } from './MonoPanel';

/** What is true of the sound: on which systems it is heard, and what is lost in mono. */
export function SoundingStation() {
  const heard = useSounding(({ shown }) => shown?.heard ?? null);
  const silent = useSound(({ line }) => line.notes.length === 0);
  const [picked, setPicked] = useState<Pick<HeardCell, 'pitch' | 'system'> | null>(null);
  const columns = useMemo(() => heardColumns(heard ?? []), [heard]);
  const chosen =
    (picked && columns.find(({ pitch }) => pitch === picked.pitch)?.cells[picked.system]) ??
    leastHeard(columns);
  return (
    <Box sx={{ display: 'grid', gap: '10px' }} data-station="sounding">
      <HeardPanel
        columns={columns}
        chosen={chosen}
        onChoose={setPicked}
        empty={silent ? 'The line is empty: draw a note at the Line station.' : 'Measuring.'}
      />
      <Columns of="minmax(0, 1fr) minmax(0, 1fr)">
        <HarmonicsChart cell={chosen} />
        <MonoPanel />
      </Columns>
    </Box>
  );
}
