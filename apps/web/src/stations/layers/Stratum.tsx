import { useSortable } from '@dnd-kit/sortable';
import { Box, ToggleButton } from '@mui/material';
import { memo, type KeyboardEvent } from 'react';
import { ParameterRow } from '../../controls/ParameterRow';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useSound } from '../../state/document-store';
import { toggleSolo } from '../../state/solo';
import { useView } from '../../state/view-store';
import { ROLE_TINT, sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { LayerMenu } from './LayerMenu';
import { depthSpan } from './depth-span';

export const tabId = (layer: string) => `layer-tab-${layer}`;

interface StratumProps {
  readonly index: number;
  readonly id: string;
  readonly chosen: boolean;
  readonly onKeyDown: (event: KeyboardEvent, id: string) => void;
}

/** One layer: its tint, name, where it sounds, level, pan, mute, solo and what is done with it as a whole. */
export const Stratum = memo(function Stratum({ index, id, chosen, onKeyDown }: StratumProps) {
  const name = useSound(({ layers }) => layers[index].name);
  const role = useSound(({ layers }) => layers[index].role);
  const on = useSound(({ layers }) => layers[index].on);
  const solo = useView((state) => state.solo);
  const levels = useSounding(({ shown }) => shown?.depth.layers.find((layer) => layer.id === id)?.levels);
  const { setNodeRef, listeners, transform, isDragging } = useSortable({ id });
  const soloed = solo.some((part) => part.split('.')[0] === id);
  return (
    <Box
      ref={setNodeRef}
      style={
        transform ? { transform: `translateY(${transform.y}px)`, zIndex: 1, position: 'relative' } : undefined
      }
      sx={{
        display: 'grid',
        gridTemplateColumns: '14px 96px 108px minmax(0, 1fr) auto',
        alignItems: 'center',
        columnGap: '8px',
        minHeight: 29,
        bgcolor: chosen ? sea.sheet : 'transparent',
        opacity: isDragging ? 0.8 : 1,
        '& + &': { borderTop: `1px solid ${sea.hair}` },
        '@container (max-width: 640px)': {
          gridTemplateColumns: '14px minmax(0, 1fr) minmax(0, 1fr) auto',
          '& > .numbers': { gridRow: 2, gridColumn: '2 / -1', pr: '10px' },
        },
      }}
    >
      <Box
        sx={{
          gridRow: '1 / -1',
          alignSelf: 'stretch',
          bgcolor: sea[ROLE_TINT[role]],
          opacity: on ? 1 : 0.35,
          outline: soloed ? `2px solid ${sea.note}` : 'none',
          outlineOffset: -2,
          '@container (max-width: 640px)': { gridRow: '1 / span 2' },
        }}
      />
      <Box
        component="button"
        {...listeners}
        id={tabId(id)}
        role="tab"
        aria-selected={chosen}
        aria-keyshortcuts="Alt+ArrowUp Alt+ArrowDown"
        tabIndex={chosen ? 0 : -1}
        onClick={() => {
          useView.setState({ layerId: id, tone: 0 });
        }}
        onKeyDown={(event: KeyboardEvent) => {
          onKeyDown(event, id);
        }}
        sx={{
          font: 'inherit',
          fontSize: TYPE.name,
          fontWeight: chosen ? 600 : 400,
          color: sea.ink,
          opacity: on ? 1 : 0.55,
          textAlign: 'left',
          height: 28,
          p: 0,
          border: 0,
          bgcolor: 'transparent',
          cursor: 'pointer',
          touchAction: 'none',
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          whiteSpace: 'nowrap',
          textDecoration: chosen ? `underline 2px ${sea.note}` : 'none',
          textUnderlineOffset: '5px',
        }}
      >
        {name}
      </Box>
      <Box
        title="Where it sounds: what is within 24 dB of its strongest part"
        sx={{ fontSize: TYPE.note, color: sea.ink2, whiteSpace: 'nowrap', overflow: 'hidden' }}
      >
        {on ? depthSpan(levels) : 'muted'}
      </Box>
      <Box
        className="numbers"
        sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 5fr) minmax(0, 4fr)', columnGap: '14px' }}
      >
        <ParameterRow
          path={['layers', index, 'levelDb']}
          of={name}
          label="Level"
          labelWidth={32}
          linkRoom={false}
        />
        <ParameterRow
          path={['layers', index, 'panPct']}
          of={name}
          label="Pan"
          labelWidth={24}
          linkRoom={false}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: '4px', alignItems: 'center', pr: '2px' }}>
        <ToggleButton
          value="mute"
          size="small"
          selected={!on}
          aria-label={`Mute ${name}`}
          onChange={() => {
            edit(`${on ? 'mute' : 'unmute'} ${name}`, (draft) => {
              draft.layers[index].on = !on;
            });
          }}
        >
          mute
        </ToggleButton>
        <ToggleButton
          value="solo"
          size="small"
          selected={solo.includes(id)}
          aria-label={`Solo ${name}`}
          onChange={() => {
            useView.setState({ solo: toggleSolo(solo, id) });
          }}
        >
          solo
        </ToggleButton>
        <LayerMenu index={index} />
      </Box>
    </Box>
  );
});
