import type { Ground } from '@abyssal/core';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  LinearProgress,
  List,
  ListItemButton,
  ListItemText,
} from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { listSounds, type SoundSummary } from '../../api/sounds';
import { SoundSearch } from '../../controls/SoundSearch';
import { useSession } from '../../state/session';
import { useRenderSound } from './use-render-sound';

interface AddSoundDialogProps {
  readonly under: Pick<Ground, 'tempoBpm' | 'bars'>;
  readonly onClose: () => void;
  readonly onAdd: (sound: SoundSummary, asset: string) => void;
}

/** Another sound of the library, to be rendered as a backing part of the open one. */
export function AddSoundDialog({ under, onClose, onAdd }: AddSoundDialogProps) {
  const open = useSession((session) => session.id);
  const [search, setSearch] = useState('');
  const wanted = useDeferredValue(search);
  const { data, error, refetch } = useQuery({
    queryKey: ['sounds', wanted, '-updated', 'first'],
    queryFn: () => listSounds({ search: wanted, sort: '-updated', deleted: false }, null),
    placeholderData: (before) => before,
  });
  const [chosen, setChosen] = useState('');
  const render = useRenderSound();
  const others = data?.items.filter(({ id }) => id !== open);

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
          <>
            <Box sx={{ mt: '6px' }}>
              <SoundSearch autoFocus value={search} onChange={setSearch} />
            </Box>
            {error && (
              <Box role="alert" sx={{ mt: 1 }}>
                The library does not answer.{' '}
                <Button
                  onClick={() => {
                    void refetch();
                  }}
                >
                  Try again
                </Button>
              </Box>
            )}
            {!error && others?.length === 0 && (
              <Box sx={{ mt: 1 }}>
                {wanted
                  ? `No other sound has “${wanted}” in its name, author, tags or key.`
                  : 'There is no other sound in the library yet.'}
              </Box>
            )}
            <List dense>
              {others?.map((sound) => (
                <ListItemButton
                  key={sound.id}
                  onClick={() => {
                    void choose(sound);
                  }}
                >
                  <ListItemText
                    primary={sound.name || 'Unnamed'}
                    secondary={`${sound.tempoBpm} bpm, ${sound.key}${sound.author ? `, ${sound.author}` : ''}`}
                  />
                </ListItemButton>
              ))}
            </List>
          </>
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
