import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import type { SoundSummary } from '../api/sounds';
import { TYPE } from '../theme/type';

/** Asks before a deleted sound is purged: the one thing here that cannot be taken back. */
export function PurgeDialog({
  sound,
  onClose,
  onPurge,
}: {
  readonly sound: SoundSummary | null;
  readonly onClose: () => void;
  readonly onPurge: (sound: SoundSummary) => void;
}) {
  return (
    <Dialog open={sound !== null} onClose={onClose} aria-labelledby="purge-title">
      <DialogTitle id="purge-title" sx={{ fontSize: TYPE.title }}>
        Purge “{sound?.name}” for good?
      </DialogTitle>
      <DialogContent>Nothing brings it back after that.</DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={onClose}>
          Keep it
        </Button>
        <Button
          variant="contained"
          onClick={() => {
            if (sound) onPurge(sound);
            onClose();
          }}
        >
          Purge
        </Button>
      </DialogActions>
    </Dialog>
  );
}
