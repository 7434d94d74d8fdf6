import { Box } from '@mui/material';

/** On or off. */
export function Switch({
  label,
  on,
  onToggle,
}: {
  readonly label: string;
  readonly on: boolean;
  readonly onToggle: () => void;
}) {
  return (
    <Box
      component="input"
      type="checkbox"
      role="switch"
      checked={on}
      onChange={onToggle}
      aria-label={label}
      sx={{ m: 0, width: 24, height: 24, p: 0, accentColor: 'var(--mui-palette-sea-ink)' }}
    />
  );
}
