import { formatReach, parseReach, type NumberNode } from '@abyssal/core';
import { Box } from '@mui/material';
import { useState } from 'react';
import { tell } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';

/** A reach that is typed, in per cent or in the unit of what is moved. */
export function ReachField({
  row,
  label,
  pct,
  onChange,
}: {
  readonly row: NumberNode;
  readonly label: string;
  readonly pct: number;
  readonly onChange: (pct: number) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = formatReach(row, pct);
  const take = () => {
    if (typed === null || typed === shown) return setTyped(null);
    const read = parseReach(row, typed);
    setTyped(null);
    if (!read.ok) return tell(read.message);
    if (read.held)
      tell(`That is more than all of its range: the reach became ${formatReach(row, read.pct)}.`);
    onChange(read.pct);
  };
  return (
    <Box
      component="input"
      aria-label={label}
      value={typed ?? shown}
      spellCheck={false}
      autoComplete="off"
      onFocus={(event) => {
        setTyped(shown);
        event.target.select();
      }}
      onChange={(event) => {
        setTyped(event.target.value);
      }}
      onBlur={take}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') event.currentTarget.blur();
        else if (event.key === 'Escape') setTyped(null);
      }}
      sx={{
        width: '100%',
        minWidth: 0,
        height: 24,
        p: '0 3px',
        font: 'inherit',
        fontSize: TYPE.label,
        textAlign: 'right',
        color: sea.ink,
        bgcolor: 'transparent',
        border: 0,
        borderBottom: `1px solid ${sea.rule}`,
        borderRadius: 0,
        fontVariantNumeric: 'tabular-nums',
        '&:focus': { outline: 'none', borderBottomColor: sea.note },
      }}
    />
  );
}
