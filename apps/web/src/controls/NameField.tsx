import { plainText } from '@abyssal/core';
import { Box } from '@mui/material';
import { useState } from 'react';
import { sea } from '../theme/sea';

/** A name that is changed where it stands: Enter takes it, Escape leaves it; an empty one is no name. */
export function NameField({
  label,
  value,
  placeholder = '',
  mayBeEmpty = false,
  width = 120,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly placeholder?: string;
  readonly mayBeEmpty?: boolean;
  readonly width?: number;
  readonly onChange: (name: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const take = () => {
    const name = plainText(typed ?? value, 40).trim();
    setTyped(null);
    if (name !== value && (name !== '' || mayBeEmpty)) onChange(name);
  };
  return (
    <Box
      component="input"
      aria-label={label}
      value={typed ?? value}
      placeholder={placeholder}
      maxLength={40}
      spellCheck={false}
      autoComplete="off"
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
        width,
        minWidth: 0,
        height: 24,
        p: '0 2px',
        font: 'inherit',
        fontWeight: 'inherit',
        color: sea.ink,
        bgcolor: 'transparent',
        border: 0,
        borderBottom: '1px solid transparent',
        borderRadius: 0,
        '&:hover': { borderBottomColor: sea.rule },
        '&:focus': { outline: 'none', borderBottomColor: sea.note },
        '&::placeholder': { color: sea.ink2, opacity: 1 },
      }}
    />
  );
}
