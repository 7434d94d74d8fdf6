import { ToggleButton, ToggleButtonGroup } from '@mui/material';

interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly options: readonly (T | { readonly value: T; readonly label: string })[];
  readonly value: T;
  readonly onChange: (value: T) => void;
  readonly disabled?: boolean;
}

/** One of a few, side by side. */
export function Choice<T extends string>({ label, options, value, onChange, disabled }: ChoiceProps<T>) {
  return (
    <ToggleButtonGroup exclusive size="small" aria-label={label} value={value} disabled={disabled} onChange={(_event, next: T | null) => { if (next !== null) onChange(next); }}>
      {options.map((option) => {
        const { value: key, label: text } = typeof option === 'string' ? { value: option, label: option } : option;
        return <ToggleButton key={key} value={key} sx={{ whiteSpace: 'nowrap' }}>{text}</ToggleButton>;
      })}
    </ToggleButtonGroup>
  );
}
