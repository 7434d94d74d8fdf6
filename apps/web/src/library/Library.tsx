import {
  LONGEST_NAME,
  assetsOf,
  cleanSound,
  fileNameOf,
  plainText,
  readMidi,
  type SoundDocument,
  writeSoundFile,
} from '@abyssal/core';
import { Box, Button, CircularProgress, IconButton, MenuItem, Select, Tooltip } from '@mui/material';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { Copy, Download, Trash2 } from 'lucide-react';
import { useDeferredValue, useRef, useState, type DragEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import {
  createSound,
  listSounds,
  readSound,
  removeSound,
  restoreSound,
  type SoundSummary,
} from '../api/sounds';
import { SoundSearch } from '../controls/SoundSearch';
import { download } from '../sounding/bounce';
import { NameMark, SchemeButton } from '../shell/Head';
import { recordingBytes, soundFileOf, takeWav } from '../state/recordings';
import { tell, tellError } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { fromBase64, toBase64 } from './base64';

const SORTS = [
  ['-updated', 'Last changed'],
  ['name', 'Name'],
  ['tempo', 'Tempo, slow first'],
  ['-tempo', 'Tempo, fast first'],
] as const;

const ago = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });
function since(iso: string): string {
  const minutes = (Date.now() - Date.parse(iso)) / 60_000;
  if (minutes < 1) return 'just now';
  if (minutes < 60) return ago.format(-Math.floor(minutes), 'minute');
  if (minutes < 60 * 24) return ago.format(-Math.floor(minutes / 60), 'hour');
  return ago.format(-Math.floor(minutes / (60 * 24)), 'day');
}

/** Reads a sound file, or makes a new sound of a MIDI file's line, and keeps it; returns what was kept. */
async function importFile(file: File): Promise<{ id: string; document: SoundDocument }> {
  if (/\.midi?$/i.test(file.name)) {
    const line = readMidi(new Uint8Array(await file.arrayBuffer()));
    const clean = cleanSound(plainText(file.name.replace(/\.midi?$/i, ''), LONGEST_NAME));
    const tempoBpm = Math.min(240, Math.max(40, line.tempoBpm ?? clean.ground.tempoBpm));
    return createSound({
      ...clean,
      ground: { ...clean.ground, bars: line.bars, tempoBpm },
      kick: { ...clean.kick, hits: clean.kick.hits.filter(({ tick }) => tick < line.bars * 1920) },
      line: { notes: line.notes },
    });
  }
  if (file.size > 80 * 1024 * 1024) throw new Error('the sound file is larger than 80 MB');
  const { sound, assets } = await soundFileOf(await file.text());
  for (const [hash, data] of Object.entries(assets)) {
    const found = await takeWav(new Blob([fromBase64(data)]));
    if (found !== hash) throw new Error('the sound file is broken: a recording in it has changed');
  }
  return createSound(sound);
}

async function exportSound(id: string): Promise<void> {
  const { document } = await readSound(id);
  const assets: Record<string, string> = {};
  for (const hash of assetsOf(document)) assets[hash] = toBase64(await recordingBytes(hash));
  download(
    `${fileNameOf(document.name)}.abyssal.json`,
    writeSoundFile({ sound: document, assets }),
    'application/json',
  );
}

/** The first page: every sound, with search and sort. */
export function Library() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState<string>('-updated');
  const wanted = useDeferredValue(search);
  const [dropping, setDropping] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const list = useInfiniteQuery({
    queryKey: ['sounds', wanted, sort],
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) => listSounds(wanted, sort, pageParam),
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
    mutationFn: async (id: string) => {
      const { document } = await readSound(id);
      return createSound({ ...document, name: `${plainText(document.name, 72)}, copy` });
    },
    onSuccess: refresh,
    onError: tellError,
  });
  const remove = useMutation({
    // The browser's own draft stays: undo brings the sound back with what was not saved yet.
    mutationFn: ({ id }: SoundSummary) => removeSound(id),
    onSuccess: (_done, sound) => {
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
        <Button variant="outlined" onClick={() => picker.current?.click()} disabled={takeIn.isPending}>
          Import
        </Button>
        <input
          ref={picker}
          type="file"
          hidden
          multiple
          accept=".json,.mid,.midi,application/json,audio/midi"
          aria-label="Sound files"
          onChange={(event) => {
            if (event.target.files?.length) takeIn.mutate([...event.target.files]);
            event.target.value = '';
          }}
        />
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
        </Box>
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
              ? `No sound has “${wanted}” in its name, author, tags or key.`
              : 'There is no sound yet. Make a new one, or drop a sound file here.'}
          </Box>
        )}
        {sounds.length > 0 && (
          <Box
            component="table"
            aria-label="Sounds"
            sx={{
              width: '100%',
              borderCollapse: 'collapse',
              '& th': {
                textAlign: 'left',
                fontWeight: 500,
                fontSize: TYPE.note,
                color: sea.ink2,
                p: '0 10px 4px',
              },
              '& td': { borderTop: `1px solid ${sea.hair}`, p: '0 10px', height: 46 },
              '& tbody tr': { bgcolor: sea.sheet },
              '& tbody tr:hover': { bgcolor: sea.tint1 },
            }}
          >
            <thead>
              <tr>
                <th>Sound</th>
                <th>Key</th>
                <th>Tempo</th>
                <th>Tags</th>
                <th>Changed</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {sounds.map((sound) => (
                <tr key={sound.id}>
                  <td>
                    <Box
                      component={Link}
                      to={`/sounds/${sound.id}`}
                      sx={{ color: sea.ink, fontWeight: 600, fontSize: TYPE.title }}
                    >
                      {sound.name || 'Unnamed'}
                    </Box>
                    <Box component="span" sx={{ ml: 1, color: sea.ink2, fontSize: TYPE.note }}>
                      {sound.author}
                    </Box>
                  </td>
                  <td>{sound.key}</td>
                  <td>
                    {sound.tempoBpm}{' '}
                    <Box component="span" sx={{ color: sea.ink2, fontSize: TYPE.note }}>
                      bpm
                    </Box>
                  </td>
                  <Box component="td" sx={{ color: sea.ink2 }}>
                    {sound.tags.join(', ')}
                  </Box>
                  <Box component="td" sx={{ color: sea.ink2, whiteSpace: 'nowrap' }}>
                    {since(sound.updatedAt)}
                  </Box>
                  <Box component="td" sx={{ textAlign: 'right', whiteSpace: 'nowrap' }}>
                    <RowAction
                      label={`Duplicate ${sound.name}`}
                      onClick={() => {
                        duplicate.mutate(sound.id);
                      }}
                    >
                      <Copy size={16} />
                    </RowAction>
                    <RowAction
                      label={`Export ${sound.name}`}
                      onClick={() => {
                        exportSound(sound.id).catch(tellError);
                      }}
                    >
                      <Download size={16} />
                    </RowAction>
                    <RowAction
                      label={`Delete ${sound.name}`}
                      onClick={() => {
                        remove.mutate(sound);
                      }}
                    >
                      <Trash2 size={16} />
                    </RowAction>
                  </Box>
                </tr>
              ))}
            </tbody>
          </Box>
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
    </Box>
  );
}

function RowAction({
  label,
  onClick,
  children,
}: {
  readonly label: string;
  readonly onClick: () => void;
  readonly children: React.ReactNode;
}) {
  return (
    <Tooltip title={label}>
      <IconButton size="small" aria-label={label} onClick={onClick} sx={{ color: sea.ink2 }}>
        {children}
      </IconButton>
    </Tooltip>
  );
}
