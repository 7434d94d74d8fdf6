import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { keepAsCopy, keepMine, takeTheirs, useSession } from '../state/session';
import { tell, tellError } from '../state/view-store';
import { TYPE } from '../theme/type';

/** Someone else saved first: a choice, and nothing lost by either. */
export function ConflictDialog({ onCopy }: { readonly onCopy: (id: string) => void }) {
  const open = useSession((state) => state.save === 'conflict');
  const copy = async () => {
    const id = await keepAsCopy();
    if (id) onCopy(id);
  };
  const reload = async () => {
    await takeTheirs();
    tell('This is the sound as it was saved elsewhere. Undo brings yours back.');
  };
  const keep = async () => {
    await keepMine();
    tell('Your state is the sound now. Undo brings theirs back.');
  };
  return (
    <Dialog open={open} aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title" sx={{ fontSize: TYPE.title }}>
        This sound was saved somewhere else
      </DialogTitle>
      <DialogContent>
        Another tab or another person saved it after you opened it, so your later changes were not saved over
        theirs.
      </DialogContent>
      <DialogActions>
        <Button
          variant="outlined"
          onClick={() => {
            reload().catch(tellError);
          }}
        >
          Reload theirs
        </Button>
        <Button
          variant="outlined"
          onClick={() => {
            keep().catch(tellError);
          }}
        >
          Keep mine over theirs
        </Button>
        <Button
          variant="contained"
          onClick={() => {
            copy().catch(tellError);
          }}
        >
          Keep mine as a copy
        </Button>
      </DialogActions>
    </Dialog>
  );
}
