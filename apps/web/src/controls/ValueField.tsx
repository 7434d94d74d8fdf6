import { formatValue, parseEntry, type NumberNode } from '@abyssal/core';
import { Box, Tooltip } from '@mui/material';
import { useState, type MouseEvent } from 'react';
import { tell } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

interface ValueFieldProps {
  readonly row: NumberNode;
  readonly label: string;
  readonly value: number;
  readonly a4Hz: number;
  readonly width?: number;
  /** Whether the unit is left out of what is shown, for it stands beside. */ readonly bare?: boolean;
  readonly onChange: (value: number) => void;
}

/**
 * A value that is typed with its unit. What means nothing is told and leaves the value alone; what is out of
 * bounds is cut to them, and that is told too.
 */
export function ValueField({ row, label, value, a4Hz, width = 72, bare = false, onChange }: ValueFieldProps) {
  const shown = formatValue(bare ? { ...row, unit: '' } : row, value);
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  /** A value has been entered: until something is typed anew the keys of the page work as anywhere else. */
  const [rests, setRests] = useState(false);
  const take = () => {
    if (typed === null) return;
    const entry = parseEntry(row, typed, a4Hz);
    if (!entry.ok) return setWrong(entry.message);
    setTyped(null);
    setWrong(null);
    setRests(true);
    if (entry.value !== value) onChange(entry.value);
    if (entry.held)
      tell(
        `${row.label} goes from ${formatValue(row, row.min)} to ${formatValue(row, row.max)}; ${typed.trim()} became ${formatValue(row, entry.value)}.`,
      );
  };
  const leave = () => {
    setTyped(null);
    setWrong(null);
    setRests(true);
  };
  return (
    <Tooltip
      open={wrong !== null}
      title={wrong ?? ''}
      placement="top-end"
      disableFocusListener
      disableHoverListener
      disableTouchListener
    >
      <Box
        component="input"
        aria-label={`${label}, value`}
        aria-invalid={wrong !== null}
        spellCheck={false}
        autoComplete="off"
        value={typed ?? shown}
        data-rests={rests || undefined}
        onFocus={(event) => {
          setTyped(shown);
          setRests(false);
          event.target.select();
        }}
        onClick={(event: MouseEvent<HTMLInputElement>) => {
          // A click into a field that rests begins anew.
          if (!rests) return;
          setTyped(shown);
          setRests(false);
          event.currentTarget.select();
        }}
        onChange={(event) => {
          setTyped(event.target.value);
          setWrong(null);
          setRests(false);
        }}
        onBlur={() => {
          const entry = typed === null ? null : parseEntry(row, typed, a4Hz);
          if (entry?.ok) take();
          else leave();
        }}
        onKeyDown={(event) => {
          // Once it rests, what begins no number is for the page's own keys.
          if (rests && typed === null && event.key !== 'Enter' && !/^[0-9+.−-]$/.test(event.key)) return;
          event.stopPropagation();
          if (event.key === 'Enter') take();
          else if (event.key === 'Escape') leave();
        }}
        sx={{
          flex: `0 1 ${width}px`,
          width,
          minWidth: Math.min(54, width),
          height: 24,
          p: '0 3px',
          font: 'inherit',
          fontSize: TYPE.label,
          textAlign: 'right',
          color: wrong ? sea.short : sea.ink,
          bgcolor: 'transparent',
          border: 0,
          borderBottom: `1px solid ${wrong ? sea.short : sea.rule}`,
          borderRadius: 0,
          fontVariantNumeric: 'tabular-nums',
          '&:focus': { outline: 'none', borderBottomColor: sea.note },
        }}
      />
    </Tooltip>
  );
}
