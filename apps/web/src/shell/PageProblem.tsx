import { Box, Button, Typography } from '@mui/material';
import { Link, useRouteError } from 'react-router';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

/** What is shown where a page is not, or has failed. */
export function PageProblem({
  sentence,
  onRetry,
  retry = 'Try again',
}: {
  readonly sentence?: string;
  readonly onRetry?: () => void;
  /** What the button says. */
  readonly retry?: string;
}) {
  const error = useRouteError();
  const text =
    sentence ??
    (error instanceof Error ? `This page failed: ${error.message}` : 'There is no page at this address.');
  return (
    <Box
      role="alert"
      sx={{ height: '100%', display: 'grid', placeContent: 'center', justifyItems: 'start', gap: 1.5, p: 4 }}
    >
      <Typography component="h1" sx={{ fontSize: TYPE.reading, fontWeight: 600, maxWidth: 560 }}>
        {text}
      </Typography>
      <Typography sx={{ color: sea.ink2, maxWidth: 560 }}>
        Nothing of your work is lost: what was not saved stays in this browser.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1 }}>
        {onRetry && (
          <Button variant="contained" onClick={onRetry}>
            {retry}
          </Button>
        )}
        <Button variant="outlined" component={Link} to="/">
          To the Library
        </Button>
      </Box>
    </Box>
  );
}
