import { Box, Paper, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

interface PanelProps {
  readonly title: ReactNode;
  readonly aside?: ReactNode;
  readonly children: ReactNode;
  readonly grow?: boolean;
  readonly label?: string;
}

/** A sheet of paper with one purpose. */
export function Panel({ title, aside, children, grow = false, label }: PanelProps) {
  return (
    <Paper
      component="section"
      aria-label={label ?? (typeof title === 'string' ? title : undefined)}
      sx={{
        border: `1px solid ${sea.hair}`,
        p: '9px 12px 10px',
        minWidth: 0,
        ...(grow ? { flex: 1, minHeight: 0 } : {}),
      }}
    >
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          justifyContent: 'space-between',
          flexWrap: 'wrap',
          gap: '2px 8px',
          minHeight: 22,
          '&:not(:last-child)': { mb: '6px' },
        }}
      >
        <Typography component="h2" sx={{ fontSize: TYPE.body, fontWeight: 600, whiteSpace: 'nowrap' }}>
          {title}
        </Typography>
        <Box
          sx={{
            color: sea.ink2,
            fontSize: TYPE.note,
            display: 'flex',
            gap: 1,
            alignItems: 'center',
            minWidth: 0,
          }}
        >
          {aside}
        </Box>
      </Box>
      {children}
    </Paper>
  );
}
