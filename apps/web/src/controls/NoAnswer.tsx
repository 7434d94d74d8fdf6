import { Box, Button } from '@mui/material';

/** Says that what is listed cannot be had now, and lets it be asked for again. */
export function NoAnswer({ who, again }: { readonly who: string; readonly again: () => Promise<unknown> }) {
  return (
    <Box role="alert" sx={{ my: '4px' }}>
      {who} does not answer.{' '}
      <Button
        size="small"
        onClick={() => {
          void again();
        }}
      >
        Try again
      </Button>
    </Box>
  );
}
