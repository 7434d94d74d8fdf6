import { Box } from '@mui/material';
import { Switch } from './Switch';
import { TYPE } from '../theme/type';

/** A panel's title that switches what the panel is about. */
export function ToggleTitle({
  label,
  of,
  on,
  onToggle,
}: {
  readonly label: string;
  readonly of?: string;
  readonly on: boolean;
  readonly onToggle: () => void;
}) {
  return (
    <Box
      component="label"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: '6px',
        minHeight: 24,
        cursor: 'pointer',
        fontWeight: 600,
        fontSize: TYPE.body,
      }}
    >
      <Switch label={of ? `${of} ${label.toLowerCase()}` : label} on={on} onToggle={onToggle} />
      {label}
    </Box>
  );
}
