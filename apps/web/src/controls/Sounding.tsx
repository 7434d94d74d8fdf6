import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { NUMERALS } from '../theme/theme';

/** A figure set like a sounding on a chart: what it is, an italic numeral, an upright unit. */
export function Reading({
  label,
  value,
  unit,
}: {
  readonly label: string;
  readonly value: ReactNode;
  readonly unit?: string;
}) {
  return (
    <Box>
      <Box sx={{ fontSize: TYPE.control, color: sea.ink2 }}>{label}</Box>
      <Box sx={{ whiteSpace: 'nowrap' }}>
        <Box
          component="span"
          sx={{ fontFamily: NUMERALS, fontStyle: 'italic', fontSize: TYPE.numeral, lineHeight: 1.15 }}
        >
          {value}
        </Box>
        {unit && value !== '–' && (
          <Box component="span" sx={{ fontSize: TYPE.note, color: sea.ink2, ml: '3px' }}>
            {unit}
          </Box>
        )}
      </Box>
    </Box>
  );
}
