import { ToggleButton, ToggleButtonGroup } from '@mui/material';
import type { KeyboardEvent } from 'react';

interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly options: readonly (T | { readonly value: T; readonly label: string })[];
  readonly value: T;
  readonly onChange: (value: T) => void;
  readonly disabled?: boolean;
}

/** One of a few, side by side. The keyboard lands on the chosen one; the arrow keys choose among them. */
export function Choice<T extends string>({ label, options, value, onChange, disabled }: ChoiceProps<T>) {
  const keys = options.map((option) => (typeof option === 'string' ? option : option.value));
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const next = (keys.indexOf(value) + step + keys.length) % keys.length;
    onChange(keys[next]);
    event.currentTarget.querySelectorAll<HTMLButtonElement>('button')[next]?.focus();
  };
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label={label}
      value={value}
      disabled={disabled}
      onKeyDown={onKeyDown}
      onChange={(_event, next: T | null) => {
        if (next !== null) onChange(next);
      }}
    >
      {options.map((option) => {
        const { value: key, label: text } =
          typeof option === 'string' ? { value: option, label: option } : option;
        return (
          <ToggleButton
            key={key}
            value={key}
            tabIndex={key === value || !keys.includes(value) ? 0 : -1}
            sx={{ whiteSpace: 'nowrap' }}
          >
            {text}
          </ToggleButton>
        );
      })}
    </ToggleButtonGroup>
  );
}
