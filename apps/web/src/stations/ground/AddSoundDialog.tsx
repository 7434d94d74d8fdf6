import type { Ground } from '@abyssal/core';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  LinearProgress,
} from '@mui/material';
import { useState } from 'react';
import type { SoundSummary } from '../../api/sounds';
import { OtherSounds } from '../../parts/OtherSounds';
import { useRenderSound } from './use-render-sound';

interface AddSoundDialogProps {
  readonly under: Pick<Ground, 'tempoBpm' | 'bars'>;
  readonly onClose: () => void;
  readonly onAdd: (sound: SoundSummary, asset: string) => void;
}

/** Another sound of the library, to be rendered as a backing part of the open one. */
export function AddSoundDialog({ under, onClose, onAdd }: AddSoundDialogProps) {
  const [chosen, setChosen] = useState('');
  const render = useRenderSound();

  const choose = async (sound: SoundSummary) => {
    setChosen(sound.name);
    const asset = await render.start(sound.id, under);
    if (asset !== null) onAdd(sound, asset);
  };
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth aria-labelledby="add-sound-title">
      <DialogTitle id="add-sound-title">Another sound as a backing part</DialogTitle>
      <DialogContent dividers sx={{ height: 330 }}>
        {render.done !== null ? (
          <Box role="status" sx={{ pt: 1 }}>
            The bass of “{chosen}” is rendered at {under.tempoBpm} bpm.
            <LinearProgress
              variant="determinate"
              value={100 * render.done}
              aria-label="Rendering the sound"
              sx={{ mt: 1 }}
            />
          </Box>
        ) : (
          <OtherSounds
            onChoose={(sound) => {
              void choose(sound);
            }}
          />
        )}
      </DialogContent>
      <DialogActions>
        {render.done !== null ? (
          <Button onClick={render.cancel}>Cancel</Button>
        ) : (
          <Button onClick={onClose}>Close</Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
