import { cleanSound } from '@abyssal/core';
import { Box, Button, CircularProgress, MenuItem, Select, ToggleButton } from '@mui/material';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useState, type DragEvent } from 'react';
import { useNavigate } from 'react-router';
import {
  createSound,
  listSounds,
  purgeSound,
  removeSound,
  restoreSound,
  type SoundSummary,
} from '../api/sounds';
import { tellDeleted } from '../browser/windows';
import { SoundSearch } from '../controls/SoundSearch';
import { FileButton } from '../controls/FileButton';
import { NameMark, SchemeButton } from '../shell/Head';
import { createCopy } from '../state/create-copy';
import { tell, tellError } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { newestState } from '../unsaved/newest-state';
import { importFile } from './import-file';
import { PurgeDialog } from './PurgeDialog';
import { SoundTable } from './SoundTable';
import { UnsavedPanel } from './UnsavedPanel';

const SORTS = [
  ['-updated', 'Last changed'],
  ['name', 'Name'],
  ['tempo', 'Tempo, slow first'],
  ['-tempo', 'Tempo, fast first'],
] as const;

/** The first page: every sound, with search and sort. */
export function Library() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState<string>('-updated');
  const wanted = useDeferredValue(search);
  const [deleted, setDeleted] = useState(false);
  const [purging, setPurging] = useState<SoundSummary | null>(null);
  const [dropping, setDropping] = useState(false);
  const list = useInfiniteQuery({
    queryKey: ['sounds', wanted, sort, deleted],
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) => listSounds({ search: wanted, sort, deleted }, pageParam),
    getNextPageParam: ({ nextCursor }) => nextCursor,
    placeholderData: (before) => before,
    staleTime: 0,
  });
  const refresh = () => queries.invalidateQueries({ queryKey: ['sounds'] });
  const begin = useMutation({
    mutationFn: createSound,
    onSuccess: ({ id }) => navigate(`/sounds/${id}`),
    onError: tellError,
  });
  const duplicate = useMutation({
    mutationFn: (id: string) => newestState(id).then(createCopy),
    onSuccess: refresh,
    onError: tellError,
  });
  const remove = useMutation({
    // The browser's own draft stays: undo brings the sound back with what was not saved yet.
    mutationFn: ({ id }: SoundSummary) => removeSound(id),
    onSuccess: (_done, sound) => {
      tellDeleted(sound.id);
      tell(`“${sound.name}” was deleted.`, {
        label: 'Undo',
        run: () => {
          restoreSound(sound.id).then(refresh, tellError);
        },
      });
      return refresh();
    },
    onError: tellError,
  });
  const restore = useMutation({
    mutationFn: ({ id }: SoundSummary) => restoreSound(id),
    onSuccess: (_done, sound) => {
      tell(`“${sound.name}” is back among the sounds.`);
      return refresh();
    },
    onError: tellError,
  });
  const purge = useMutation({
    mutationFn: ({ id }: SoundSummary) => purgeSound(id),
    onSuccess: refresh,
    onError: tellError,
  });
  const takeIn = useMutation({
    mutationFn: async (files: readonly File[]) => {
      for (const file of files)
        await importFile(file).catch((error: unknown) => {
          throw new Error(`${file.name}: ${error instanceof Error ? error.message : String(error)}`);
        });
    },
    onSuccess: (_done, files) => {
      tell(files.length === 1 ? `Imported ${files[0].name}.` : `Imported ${files.length} sounds.`);
    },
    onError: tellError,
    onSettled: refresh,
  });
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setDropping(false);
    if (event.dataTransfer.files.length > 0) takeIn.mutate([...event.dataTransfer.files]);
  };
  const sounds = list.data?.pages.flatMap(({ items }) => items) ?? [];

  return (
    <Box
      sx={{ minHeight: '100%', display: 'grid', gridTemplateRows: '52px 1fr', bgcolor: sea.paper }}
      onDragOver={(event) => {
        event.preventDefault();
        setDropping(true);
      }}
      onDragLeave={(event) => {
        if (event.currentTarget === event.target) setDropping(false);
      }}
      onDrop={onDrop}
    >
      <Box
        component="header"
        sx={{
          borderBottom: `1px solid ${sea.ink}`,
          bgcolor: sea.sheet,
          display: 'flex',
          alignItems: 'center',
          gap: 1.5,
          p: '0 14px',
        }}
      >
        <Box>
          <NameMark />
          <Box component="h1" sx={{ m: 0, fontSize: TYPE.note, fontWeight: 400, color: sea.ink2 }}>
            Library
          </Box>
        </Box>
        <Box sx={{ flex: 1 }} />
        <SchemeButton />
        <FileButton
          label="Sound files"
          accept=".json,.mid,.midi,application/json,audio/midi"
          multiple
          disabled={takeIn.isPending}
          onFiles={(files) => {
            takeIn.mutate([...files]);
          }}
        >
          Import
        </FileButton>
        <Button
          variant="contained"
          disabled={begin.isPending}
          onClick={() => {
            begin.mutate(cleanSound());
          }}
        >
          New sound
        </Button>
      </Box>
      <Box
        component="main"
        sx={{
          width: '100%',
          maxWidth: 1040,
          m: '0 auto',
          p: '18px 24px',
          outline: dropping ? `2px dashed ${sea.note}` : 'none',
          outlineOffset: -8,
        }}
      >
        <Box sx={{ display: 'flex', gap: 2, mb: 2 }}>
          <SoundSearch value={search} onChange={setSearch} />
          <Select
            size="small"
            value={sort}
            disabled={deleted}
            onChange={(event) => {
              setSort(event.target.value);
            }}
            inputProps={{ 'aria-label': 'Sort by' }}
            sx={{ minWidth: 170 }}
          >
            {SORTS.map(([value, text]) => (
              <MenuItem key={value} value={value}>
                {text}
              </MenuItem>
            ))}
          </Select>
          <ToggleButton
            value="deleted"
            selected={deleted}
            sx={{ height: 40, px: 1.5, fontSize: TYPE.body }}
            onChange={() => {
              setDeleted(!deleted);
            }}
          >
            Deleted
          </ToggleButton>
        </Box>
        <UnsavedPanel />
        {list.isPending && <CircularProgress size={22} aria-label="Loading the sounds" />}
        {list.isError && (
          <Box role="alert" sx={{ border: `1px solid ${sea.short}`, bgcolor: sea.sheet, p: 2 }}>
            {list.error.message}
            <Button
              variant="outlined"
              sx={{ ml: 2 }}
              onClick={() => {
                void list.refetch();
              }}
            >
              Try again
            </Button>
          </Box>
        )}
        {list.isSuccess && sounds.length === 0 && (
          <Box sx={{ border: `1px solid ${sea.hair}`, bgcolor: sea.sheet, p: 3 }}>
            {wanted
              ? `No ${deleted ? 'deleted ' : ''}sound has “${wanted}” in its name, author, tags or key.`
              : deleted
                ? 'No deleted sounds.'
                : 'There is no sound yet. Make a new one, or drop a sound file here.'}
          </Box>
        )}
        {sounds.length > 0 && (
          <SoundTable
            sounds={sounds}
            deleted={deleted}
            onDuplicate={duplicate.mutate}
            onDelete={remove.mutate}
            onRestore={restore.mutate}
            onPurge={setPurging}
          />
        )}
        {list.hasNextPage && (
          <Button
            variant="outlined"
            sx={{ mt: 2 }}
            disabled={list.isFetchingNextPage}
            onClick={() => {
              void list.fetchNextPage();
            }}
          >
            Show more
          </Button>
        )}
      </Box>
      <PurgeDialog
        sound={purging}
        onClose={() => {
          setPurging(null);
        }}
        onPurge={purge.mutate}
      />
    </Box>
  );
}
