import type { Mover } from '@abyssal/core';
import { Box } from '@mui/material';
import { memo, type KeyboardEvent } from 'react';
import { Panel } from '../../controls/Panel';
import { edit, presentSound, useSound } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { viewOf } from './kinds';
import { moveMover, removeMover } from '../../state/mover-edits';
import { AddMover, MoverMenu } from './MoverMenu';
import { TraceLine } from './TraceLine';
import { useTraces } from './traces';

const NONE: readonly number[] = [];

/** The movers, each with what it does over the loop; arrows choose, Alt and arrows move, Delete removes. */
export function MoverList({ selected }: { readonly selected: string | null }) {
  const movers = useSound((sound) => sound.movers);
  const traces = useTraces();
  return (
    <Panel title="Movers" aside={<AddMover />}>
      {movers.length === 0 && (
        <Box sx={{ color: sea.ink2, lineHeight: 1.5 }}>Nothing moves yet. Add a wobble to begin.</Box>
      )}
      <Box role="group" aria-label="Movers" sx={{ display: 'grid', gap: '5px' }}>
        {movers.map((mover, index) => (
          <MoverRow
            key={mover.id}
            mover={mover}
            index={index}
            chosen={mover.id === selected}
            last={index === movers.length - 1}
            values={traces.get(mover.id)}
          />
        ))}
      </Box>
    </Panel>
  );
}

interface MoverRowProps {
  readonly mover: Mover;
  readonly index: number;
  readonly chosen: boolean;
  readonly last: boolean;
  /** Where it stands over the loop. */
  readonly values: Float32Array | undefined;
}

const MoverRow = memo(function MoverRow({ mover, index, chosen, last, values }: MoverRowProps) {
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const { movers } = presentSound();
    if (by !== undefined && event.altKey)
      edit(`move ${mover.name}`, (draft) => {
        moveMover(draft, mover.id, by);
      });
    else if (by !== undefined) {
      const next = movers[Math.min(movers.length - 1, Math.max(0, index + by))];
      useView.setState({ moverId: next.id });
      document.getElementById(`mover-${next.id}`)?.focus();
    } else if (event.key === 'Delete')
      edit(`remove ${mover.name}`, (draft) => {
        removeMover(draft, mover.id);
      });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'minmax(0, 1fr) 26px',
        alignItems: 'start',
        mx: '-6px',
      }}
    >
      <Box
        component="button"
        type="button"
        id={`mover-${mover.id}`}
        aria-pressed={chosen}
        aria-keyshortcuts="Alt+ArrowUp Alt+ArrowDown Delete"
        onClick={() => {
          useView.setState({ moverId: mover.id });
        }}
        onKeyDown={onKeyDown}
        sx={{
          font: 'inherit',
          color: 'inherit',
          textAlign: 'left',
          width: '100%',
          border: 0,
          borderLeft: `3px solid ${chosen ? sea.tint5 : 'transparent'}`,
          bgcolor: chosen ? sea.tint1 : 'transparent',
          p: '3px 8px 5px',
          cursor: 'pointer',
          opacity: mover.on ? 1 : 0.55,
        }}
      >
        <Box sx={{ display: 'flex', alignItems: 'center', minHeight: 24, gap: '6px' }}>
          <Box sx={{ fontWeight: 600, whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis' }}>
            {mover.name}
          </Box>
          <Box
            sx={{
              flex: 1,
              textAlign: 'right',
              color: sea.ink2,
              fontSize: TYPE.note,
              whiteSpace: 'nowrap',
              overflow: 'hidden',
              textOverflow: 'ellipsis',
            }}
          >
            {mover.on ? viewOf(mover).summary(mover) : 'off'}
          </Box>
        </Box>
        <TraceLine values={values ?? NONE} label={`${mover.name} over the loop`} height={26} filled />
      </Box>
      <MoverMenu mover={mover} index={index} last={last} />
    </Box>
  );
});
