import type { Ground } from '@abyssal/core';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, LinearProgress, List, ListItemButton, ListItemText, TextField } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { listSounds, type SoundSummary } from '../../api/sounds';
import { wasCancelled } from '../../sounding/bounce';
import { useSession } from '../../state/session';
import { tellError } from '../../state/view-store';
import { renderSound, type RenderedSound } from './sound-parts';

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
  const { data, error, refetch } = useQuery({ queryKey: ['sounds', wanted, '-updated', 'first'], queryFn: () => listSounds(wanted, '-updated', null), placeholderData: (before) => before });
  const [rendering, setRendering] = useState<{ readonly name: string; readonly done: number } | null>(null);
  const render = useRef<RenderedSound | null>(null);
  useEffect(() => () => { render.current?.cancel(); }, []);
  const others = data?.items.filter(({ id }) => id !== open);

  const choose = async (sound: SoundSummary) => {
    setRendering({ name: sound.name, done: 0 });
    render.current = renderSound(sound.id, under, (done) => { setRendering({ name: sound.name, done }); });
    try {
      onAdd(sound, await render.current.asset);
    } catch (failure) {
      if (!wasCancelled(failure)) tellError(failure);
      setRendering(null);
    }
  };
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth aria-labelledby="add-sound-title">
      <DialogTitle id="add-sound-title">Another sound as a backing part</DialogTitle>
      <DialogContent dividers sx={{ height: 330 }}>
        {rendering ? (
          <Box role="status" sx={{ pt: 1 }}>
            The bass of “{rendering.name}” is rendered at {under.tempoBpm} bpm.
            <LinearProgress variant="determinate" value={100 * rendering.done} aria-label="Rendering the sound" sx={{ mt: 1 }} />
          </Box>
        ) : (
          <>
            <TextField label="Search" type="search" size="small" fullWidth autoFocus value={search} onChange={(event) => { setSearch(event.target.value); }} placeholder="name, author, tag or key" slotProps={{ htmlInput: { 'aria-label': 'Search sounds' } }} sx={{ mt: '6px' }} />
            {error && <Box role="alert" sx={{ mt: 1 }}>The library does not answer. <Button onClick={() => { void refetch(); }}>Try again</Button></Box>}
            {!error && others?.length === 0 && <Box sx={{ mt: 1 }}>{wanted ? `No other sound has “${wanted}” in its name, author, tags or key.` : 'There is no other sound in the library yet.'}</Box>}
            <List dense>
              {others?.map((sound) => <ListItemButton key={sound.id} onClick={() => { void choose(sound); }}><ListItemText primary={sound.name || 'Unnamed'} secondary={`${sound.tempoBpm} bpm, ${sound.key}${sound.author ? `, ${sound.author}` : ''}`} /></ListItemButton>)}
            </List>
          </>
        )}
      </DialogContent>
      <DialogActions>
        {rendering ? <Button onClick={() => { render.current?.cancel(); }}>Cancel</Button> : <Button onClick={onClose}>Close</Button>}
      </DialogActions>
    </Dialog>
  );
}
