import { Box } from '@mui/material';

/** What the lines of a chart are. */
export function Legend({
  entries,
}: {
  readonly entries: readonly (readonly [name: string, colour: string, dashed?: boolean])[];
}) {
  return (
    <Box component="span" sx={{ display: 'flex', gap: 1.5 }}>
      {entries.map(([name, colour, dashed]) => (
        <Box
          key={name}
          component="span"
          sx={{ display: 'flex', alignItems: 'center', gap: '5px', whiteSpace: 'nowrap' }}
        >
          <Box
            component="span"
            sx={{ width: 18, borderTop: `2px ${dashed ? 'dashed' : 'solid'} ${colour}` }}
          />
          {name}
        </Box>
      ))}
    </Box>
  );
}
