import { Box } from '@mui/material';
import type { Mend } from '@abyssal/core';
import { useEffect, useMemo, useState } from 'react';
import { Choice } from '../../controls/Choice';
import { Columns } from '../../controls/Columns';
import { Panel } from '../../controls/Panel';
import { keepMending } from '../../sounding/mends-store';
import { useSounding } from '../../sounding/sounding-store';
import { useSound } from '../../state/document-store';
import { HarmonicsChart } from './HarmonicsChart';
import { heardColumns, leastHeard } from './heard-map';
import { HeardPanel } from './HeardPanel';
import { MendPanel } from './MendPanel';
import { AgainstPanel } from './AgainstPanel';
import { MonoBands } from './MonoBands';
import { usePicked } from './picked';
import { ReportPanel } from './ReportPanel';

/** What the second panel shows, and in what. */
const SECOND = { mono: 'Lost in mono', against: 'Against B' } as const;
const ASIDES = { mono: 'dB by octaves · correlation', against: 'at one loudness' } as const;

/** What is true of the sound: on which systems it is heard, and what is lost in mono. */
export function SoundingStation() {
  const heard = useSounding(({ shown }) => shown?.heard ?? null);
  const systems = useSounding(({ shown }) => shown?.systems ?? null);
  const leftOut = useSound((sound) => sound.systems.leftOut);
  const silent = useSound(({ line }) => line.notes.length === 0);
  const picked = usePicked(({ cell }) => cell);
  const [second, setSecond] = useState<keyof typeof SECOND>('mono');
  const [looked, setLooked] = useState<Mend | null>(null);
  const shownHeard = looked?.heard ?? heard;
  const columns = useMemo(() => heardColumns(shownHeard ?? [], systems ?? []), [shownHeard, systems]);
  useEffect(keepMending, []);
  // What is looked at belongs to the sound: the next one begins with what is heard least of it.
  useEffect(
    () => () => {
      usePicked.setState({ cell: null });
    },
    [],
  );
  const chosen =
    (picked &&
      columns
        .find(({ pitch }) => pitch === picked.pitch)
        ?.cells.find(({ system }) => system.id === picked.system)) ??
    leastHeard(columns);
  return (
    <Box sx={{ display: 'grid', gap: '10px' }} data-station="sounding">
      <HeardPanel
        columns={columns}
        systems={systems ?? []}
        leftOut={leftOut}
        with={looked?.title ?? null}
        chosen={chosen}
        onChoose={({ pitch, system }) => {
          usePicked.setState({ cell: { pitch, system: system.id } });
        }}
        empty={silent ? 'The line is empty: draw a note at the Line station.' : 'Measuring.'}
      />
      <MendPanel onLook={setLooked} />
      <Columns of="minmax(0, 1fr) minmax(0, 1fr)">
        <ReportPanel />
        <Box sx={{ display: 'grid', gap: '10px', alignContent: 'start' }}>
          <HarmonicsChart cell={chosen} />
          <Panel
            label={SECOND[second]}
            aside={ASIDES[second]}
            title={
              <Choice
                label="Second panel"
                options={[
                  { value: 'mono', label: SECOND.mono },
                  { value: 'against', label: SECOND.against },
                ]}
                value={second}
                onChange={setSecond}
              />
            }
          >
            {second === 'mono' ? <MonoBands /> : <AgainstPanel />}
          </Panel>
        </Box>
      </Columns>
    </Box>
  );
}
