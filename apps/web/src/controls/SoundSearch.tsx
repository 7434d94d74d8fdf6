import { TextField } from '@mui/material';

interface SoundSearchProps {
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly autoFocus?: boolean;
}

/** What is looked for among the sounds of the library. */
export function SoundSearch({ value, onChange, autoFocus = false }: SoundSearchProps) {
  return (
    <TextField
      label="Search"
      type="search"
      size="small"
      fullWidth
      autoFocus={autoFocus}
      value={value}
      onChange={(event) => {
        onChange(event.target.value);
      }}
      placeholder="name, author, tag or key"
      slotProps={{ htmlInput: { 'aria-label': 'Search sounds' } }}
    />
  );
}
