import { MACRO_IDS, macroName } from '@abyssal/core';
import { Box, Button, Popover } from '@mui/material';
import { useState } from 'react';
import { ParameterRow } from '../controls/ParameterRow';
import { useSound } from '../state/document-store';
import { TYPE } from '../theme/type';

/** The eight macros, at hand at every station. */
export function MacrosButton() {
  const macros = useSound((sound) => sound.macros);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button
        variant="outlined"
        aria-haspopup="dialog"
        aria-expanded={anchor !== null}
        sx={{ minWidth: 0, px: '6px' }}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        Macros
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
        }}
        anchorOrigin={{ vertical: 'top', horizontal: 'right' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      >
        <Box role="dialog" aria-label="Macros" sx={{ width: 320, p: '10px 14px' }}>
          {MACRO_IDS.map((id, index) => (
            <ParameterRow
              key={id}
              path={['macros', index, 'valuePct']}
              label={macroName({ macros }, index)}
              labelWidth={110}
              bare
            />
          ))}
          <Box sx={{ fontSize: TYPE.note, mt: '4px' }}>What each moves is set in Motion.</Box>
        </Box>
      </Popover>
    </>
  );
}
