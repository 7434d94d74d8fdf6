import { Box } from '@mui/material';
import type { ReactNode } from 'react';

/** Panels side by side; one under the other where the window is narrow. */
export function Columns({ of = 'minmax(0, 1fr) minmax(0, 1fr)', children }: { readonly of?: string; readonly children: ReactNode }) {
  return <Box sx={{ display: 'grid', gridTemplateColumns: of, gap: '10px', alignItems: 'start', '@media (max-width: 1023px)': { gridTemplateColumns: 'minmax(0, 1fr)' } }}>{children}</Box>;
}
