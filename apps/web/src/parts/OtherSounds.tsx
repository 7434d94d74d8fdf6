import { Box, List, ListItemButton, ListItemText } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { NoAnswer } from '../controls/NoAnswer';
import { listSounds, type SoundSummary } from '../api/sounds';
import { SoundSearch } from '../controls/SoundSearch';
import { useSession } from '../state/session';

/** The other sounds of the library, searched, one to be chosen. */
export function OtherSounds({ onChoose }: { readonly onChoose: (sound: SoundSummary) => void }) {
  const open = useSession((session) => session.id);
  const [search, setSearch] = useState('');
  const wanted = useDeferredValue(search);
  const { data, error, refetch } = useQuery({
    queryKey: ['sounds', wanted, '-updated', 'first'],
    queryFn: () => listSounds({ search: wanted, sort: '-updated', deleted: false }, null),
    placeholderData: (before) => before,
  });
  const others = data?.items.filter(({ id }) => id !== open);
  return (
    <>
      <Box sx={{ mt: '6px' }}>
        <SoundSearch autoFocus value={search} onChange={setSearch} />
      </Box>
      {error && <NoAnswer who="The library" again={refetch} />}
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
              onChoose(sound);
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
  );
}
