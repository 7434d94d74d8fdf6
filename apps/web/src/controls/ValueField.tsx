import { formatValue, parseEntry, type NumberNode } from '@abyssal/core';
import { Box, Tooltip } from '@mui/material';
import { useState } from 'react';
import { sea } from '../theme/sea';

interface ValueFieldProps { readonly row: NumberNode; readonly label: string; readonly value: number; readonly a4Hz: number; readonly width?: number; readonly onChange: (value: number) => void }

/** A value that is typed with its unit. What means nothing is told and leaves the value alone. */
export function ValueField({ row, label, value, a4Hz, width = 72, onChange }: ValueFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const take = () => {
    if (typed === null) return;
    const entry = parseEntry(row, typed, a4Hz);
    if (!entry.ok) return setWrong(entry.message);
    setTyped(null);
    setWrong(null);
    if (entry.value !== value) onChange(entry.value);
  };
  const leave = () => {
    setTyped(null);
    setWrong(null);
  };
  return (
    <Tooltip open={wrong !== null} title={wrong ?? ''} placement="top-end" disableFocusListener disableHoverListener disableTouchListener>
      <Box
        component="input" aria-label={`${label}, value`} aria-invalid={wrong !== null} spellCheck={false} autoComplete="off"
        value={typed ?? formatValue(row, value)}
        onFocus={(event) => { setTyped(formatValue(row, value)); event.target.select(); }}
        onChange={(event) => { setTyped(event.target.value); setWrong(null); }}
        onBlur={() => { const entry = typed === null ? null : parseEntry(row, typed, a4Hz); if (entry?.ok) take(); else leave(); }}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') take();
          else if (event.key === 'Escape') leave();
        }}
        sx={{
          flex: `0 1 ${width}px`, width, minWidth: Math.min(54, width), height: 24, p: '0 3px', font: 'inherit', fontSize: 13.5, textAlign: 'right', color: wrong ? sea.short : sea.ink, bgcolor: 'transparent',
          border: 0, borderBottom: `1px solid ${wrong ? sea.short : sea.rule}`, borderRadius: 0, fontVariantNumeric: 'tabular-nums', '&:focus': { outline: 'none', borderBottomColor: sea.note },
        }}
      />
    </Tooltip>
  );
}
