import { Box } from '@mui/material';
import { Panel } from '../../controls/Panel';
import { useSound } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { viewOf } from './kinds';
import { TraceLine } from './TraceLine';

/** The movers, each with what it does over the loop. */
export function MoverList({
  selected,
  traces,
}: {
  readonly selected: string;
  readonly traces: ReadonlyMap<string, Float32Array>;
}) {
  const movers = useSound((sound) => sound.movers);
  return (
    <Panel title="Movers">
      <Box role="listbox" aria-label="Movers" sx={{ display: 'grid', gap: '8px' }}>
        {movers.map((mover) => (
          <Box
            key={mover.id}
            component="button"
            type="button"
            role="option"
            aria-selected={mover.id === selected}
            onClick={() => {
              useView.setState({ moverId: mover.id });
            }}
            sx={{
              font: 'inherit',
              color: 'inherit',
              textAlign: 'left',
              border: 0,
              borderLeft: `3px solid ${mover.id === selected ? sea.tint5 : 'transparent'}`,
              bgcolor: mover.id === selected ? sea.tint1 : 'transparent',
              p: '5px 8px',
              mx: '-6px',
              cursor: 'pointer',
              opacity: mover.on ? 1 : 0.55,
            }}
          >
            <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline', mb: '3px' }}>
              <Box sx={{ fontWeight: 600 }}>{mover.name}</Box>
              <Box sx={{ color: sea.ink2, fontSize: TYPE.note }}>
                {mover.on ? viewOf(mover).summary(mover) : 'off'}
              </Box>
            </Box>
            <TraceLine values={traces.get(mover.id) ?? []} label={`${mover.name} over the loop`} filled />
          </Box>
        ))}
      </Box>
    </Panel>
  );
}
