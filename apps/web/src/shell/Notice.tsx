import { Alert, Button, Snackbar } from '@mui/material';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';

/** One sentence at the foot of the page, with a way on where there is one. */
export function Notice() {
  const notice = useView((state) => state.notice);
  const close = () => {
    useView.setState({ notice: null });
  };
  return (
    <Snackbar
      key={notice?.text}
      open={notice !== null}
      autoHideDuration={notice?.action ? 12_000 : 8000}
      onClose={(_event, reason) => {
        if (reason !== 'clickaway') close();
      }}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}
      sx={{ mb: 8 }}
    >
      <Alert
        icon={false}
        severity="info"
        onClose={notice?.action ? undefined : close}
        sx={{
          bgcolor: sea.ink,
          color: sea.onInk,
          alignItems: 'center',
          '& .MuiAlert-action': { alignItems: 'center', pt: 0 },
        }}
        action={
          notice?.action && (
            <Button
              color="inherit"
              size="small"
              sx={{ textDecoration: 'underline' }}
              onClick={() => {
                notice.action?.run();
                close();
              }}
            >
              {notice.action.label}
            </Button>
          )
        }
      >
        {notice?.text}
      </Alert>
    </Snackbar>
  );
}
