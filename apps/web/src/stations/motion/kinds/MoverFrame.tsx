import type { Mover } from '@abyssal/core';
import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { NameField } from '../../../controls/NameField';
import { Panel } from '../../../controls/Panel';
import { Switch } from '../../../controls/Switch';
import { edit } from '../../../state/document-store';

interface MoverFrameProps {
  readonly index: number;
  readonly mover: Mover;
  /** What stands at the right of its name. */
  readonly aside?: ReactNode;
  readonly children: ReactNode;
}

/** The sheet of a mover: whether it is on, its name, and its settings. */
export function MoverFrame({ index, mover, aside, children }: MoverFrameProps) {
  return (
    <Panel
      label={mover.name}
      title={
        <Box component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: '6px' }}>
          <Switch
            label={`${mover.name} on`}
            on={mover.on}
            onToggle={() => {
              edit(`${mover.name} ${mover.on ? 'off' : 'on'}`, (draft) => {
                draft.movers[index].on = !mover.on;
              });
            }}
          />
          <NameField
            label="Name of the mover"
            value={mover.name}
            onChange={(name) => {
              edit(`name ${name}`, (draft) => {
                draft.movers[index].name = name;
              });
            }}
          />
        </Box>
      }
      aside={aside}
    >
      {children}
    </Panel>
  );
}

/** Rows of a mover side by side, as many as fit. */
export function MoverRows({ children }: { readonly children: ReactNode }) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'repeat(auto-fit, minmax(240px, 1fr))',
        columnGap: 2,
        mt: '6px',
      }}
    >
      {children}
    </Box>
  );
}
