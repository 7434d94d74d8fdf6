import { inScale, type KeyName, type ScaleName } from '@abyssal/core';
import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { edit, useSound } from '../../state/document-store';
import { foldNotes, semitonesBetween, transposeNotes } from '../line/line-edits';
import { TYPE } from '../../theme/type';

interface KeyChangeDialogProps {
  readonly to: { readonly key: KeyName; readonly scale: ScaleName };
  readonly onClose: () => void;
}

/** Key or scale change under notes: whether they go along is asked once. */
export function KeyChangeDialog({ to, onClose }: KeyChangeDialogProps) {
  const { key, scale } = useSound(({ ground }) => ground);
  const notes = useSound(({ line }) => line.notes);
  const by = semitonesBetween(key, to.key);
  const outside = notes.filter(({ pitch }) => !inScale(pitch, to.key, to.scale)).length;
  const change = (next: typeof notes) => {
    edit('key', (draft) => {
      draft.ground.key = to.key;
      draft.ground.scale = to.scale;
      draft.line.notes = [...next];
    });
    onClose();
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="key-change-title">
      <DialogTitle id="key-change-title" sx={{ fontSize: TYPE.title }}>
        {to.key} {to.scale}
      </DialogTitle>
      <DialogContent sx={{ fontSize: TYPE.body }}>
        The line has {notes.length} {notes.length === 1 ? 'note' : 'notes'} in {key} {scale};{' '}
        {outside === 0
          ? 'all of them lie in the new scale as well'
          : `${outside} of them ${outside === 1 ? 'lies' : 'lie'} outside the new scale`}
        . Should they move along?
      </DialogContent>
      <DialogActions sx={{ flexWrap: 'wrap' }}>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="outlined"
          onClick={() => {
            change(notes);
          }}
        >
          Leave them
        </Button>
        <Button
          variant="outlined"
          disabled={outside === 0}
          onClick={() => {
            change(foldNotes(notes, to.key, to.scale));
          }}
        >
          Fold to the scale
        </Button>
        <Button
          variant="contained"
          autoFocus
          disabled={by === 0}
          onClick={() => {
            const moved = transposeNotes(notes, by);
            change(scale === to.scale ? moved : foldNotes(moved, to.key, to.scale));
          }}
        >
          {by === 0 ? 'Transpose' : `Transpose by ${by > 0 ? '+' : '−'}${Math.abs(by)}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
