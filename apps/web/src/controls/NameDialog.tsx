import { plainText } from '@abyssal/core';
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useState } from 'react';

interface NameDialogProps {
  readonly title: string;
  readonly start?: string;
  readonly onName: (name: string) => void;
  readonly onClose: () => void;
}

const LONGEST = 80;

/** Asks for a name; Enter takes it. */
export function NameDialog({ title, start = '', onName, onClose }: NameDialogProps) {
  const [typed, setTyped] = useState(start);
  const name = plainText(typed, LONGEST).trim();
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth aria-labelledby="name-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (name === '') return;
          onClose();
          onName(name);
        }}
      >
        <DialogTitle id="name-title">{title}</DialogTitle>
        <DialogContent>
          <TextField
            autoFocus
            fullWidth
            margin="dense"
            label="Name"
            value={typed}
            slotProps={{ htmlInput: { maxLength: LONGEST } }}
            onChange={(event) => {
              setTyped(event.target.value);
            }}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={name === ''}>
            Keep
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
