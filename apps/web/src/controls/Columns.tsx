import { Box } from '@mui/material';
import type { ReactNode } from 'react';

/**
 * Panels side by side; one under the other where a row of a panel would not have room for its label, slider
 * and value.
 */
export function Columns({
  of = 'minmax(0, 1fr) minmax(0, 1fr)',
  children,
}: {
  readonly of?: string;
  readonly children: ReactNode;
}) {
  return (
    <Box sx={{ containerType: 'inline-size' }}>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: of,
          gap: '10px',
          alignItems: 'start',
          '@container (max-width: 640px)': { gridTemplateColumns: 'minmax(0, 1fr)' },
        }}
      >
        {children}
      </Box>
    </Box>
  );
}
