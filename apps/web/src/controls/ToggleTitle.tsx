import { Box } from '@mui/material';

/** A panel's title that switches what the panel is about. */
export function ToggleTitle({ label, of, on, onToggle }: { readonly label: string; readonly of?: string; readonly on: boolean; readonly onToggle: () => void }) {
  return (
    <Box component="label" sx={{ display: 'flex', alignItems: 'center', gap: '6px', minHeight: 24, cursor: 'pointer', fontWeight: 600, fontSize: 14 }}>
      <Box component="input" type="checkbox" role="switch" checked={on} onChange={onToggle} aria-label={of ? `${of} ${label.toLowerCase()}` : label} sx={{ m: 0, width: 24, height: 24, p: 0, accentColor: 'var(--mui-palette-sea-ink)' }} />
      {label}
    </Box>
  );
}
