import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { idleRow } from './idle-row';

/** A row like a parameter's, with something else to choose by. */
export function Row({
  label,
  children,
  disabled = false,
}: {
  readonly label: string;
  readonly children: ReactNode;
  readonly disabled?: boolean;
}) {
  return (
    <Box
      {...(disabled && idleRow(label))}
      sx={{ display: 'flex', alignItems: 'center', gap: '8px', minHeight: 26 }}
    >
      <Box
        sx={{
          flex: '0 0 auto',
          alignSelf: 'flex-start',
          width: 96,
          lineHeight: '26px',
          color: sea.ink2,
          fontSize: TYPE.label,
          whiteSpace: 'nowrap',
        }}
      >
        {label}
      </Box>
      <Box
        sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: '2px 8px', flex: 1, minWidth: 0 }}
      >
        {children}
      </Box>
    </Box>
  );
}
