import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { bringBack, keepAsCopy, letGo, useSession } from '../state/session';
import { tellError } from '../state/view-store';
import { TYPE } from '../theme/type';

/** The sound was deleted elsewhere while it is open here: a choice, and nothing lost by any. */
export function DeletedDialog({
  onCopy,
  onLeave,
}: {
  readonly onCopy: (id: string) => void;
  readonly onLeave: () => void;
}) {
  const open = useSession((state) => state.save === 'deleted');
  const copy = async () => {
    const id = await keepAsCopy();
    if (id) onCopy(id);
  };
  return (
    <Dialog open={open} aria-labelledby="deleted-title">
      <DialogTitle id="deleted-title" sx={{ fontSize: TYPE.title }}>
        This sound was deleted somewhere else
      </DialogTitle>
      <DialogContent>
        Another tab or another person deleted it while it was open here. What you have here is still whole.
      </DialogContent>
      <DialogActions>
        <Button
          variant="outlined"
          onClick={() => {
            letGo();
            onLeave();
          }}
        >
          Leave it deleted
        </Button>
        <Button
          variant="outlined"
          onClick={() => {
            copy().catch(tellError);
          }}
        >
          Keep as a copy
        </Button>
        <Button
          variant="contained"
          onClick={() => {
            bringBack().catch(tellError);
          }}
        >
          Restore it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
