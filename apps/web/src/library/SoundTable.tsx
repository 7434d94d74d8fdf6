import { Box, IconButton, Tooltip } from '@mui/material';
import { Copy, Download, RotateCcw, Trash2, type LucideIcon } from 'lucide-react';
import { Link } from 'react-router';
import type { SoundSummary } from '../api/sounds';
import { saveToFile } from '../files/save-to-file';
import { tellError } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { newestState } from '../unsaved/newest-state';
import { useUnsaved } from '../unsaved/unsaved-work';
import { since } from './since';

interface Actions {
  readonly deleted: boolean;
  readonly onDuplicate: (id: string) => void;
  readonly onDelete: (sound: SoundSummary) => void;
  readonly onRestore: (sound: SoundSummary) => void;
  readonly onPurge: (sound: SoundSummary) => void;
}

function Action({
  label,
  icon: Icon,
  onClick,
}: {
  readonly label: string;
  readonly icon: LucideIcon;
  readonly onClick: () => void;
}) {
  return (
    <Tooltip title={label}>
      <IconButton size="small" aria-label={label} onClick={onClick} sx={{ color: sea.ink2 }}>
        <Icon size={16} />
      </IconButton>
    </Tooltip>
  );
}

/** That a sound has work in this browser that is not saved. */
function Unsaved({ id }: { readonly id: string }) {
  const unsaved = useUnsaved(({ works }) => works.some(({ journal }) => journal.soundId === id));
  if (!unsaved) return null;
  return (
    <Tooltip title="This browser has work on it that is not saved yet.">
      <Box
        component="span"
        sx={{ ml: 1, p: '0 5px', border: `1px solid ${sea.short}`, color: sea.short, fontSize: TYPE.note }}
      >
        unsaved work
      </Box>
    </Tooltip>
  );
}

function Row({
  sound,
  deleted,
  onDuplicate,
  onDelete,
  onRestore,
  onPurge,
}: Actions & { readonly sound: SoundSummary }) {
  const name = { color: sea.ink, fontWeight: 600, fontSize: TYPE.title };
  const title = sound.name || 'Unnamed';
  return (
    <tr>
      <td>
        {deleted ? (
          <Box component="span" sx={name}>
            {title}
          </Box>
        ) : (
          <Box component={Link} to={`/sounds/${sound.id}`} sx={name}>
            {title}
          </Box>
        )}
        <Box component="span" sx={{ ml: 1, color: sea.ink2, fontSize: TYPE.note }}>
          {sound.author}
        </Box>
        <Unsaved id={sound.id} />
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
        {since(sound.deletedAt ?? sound.updatedAt)}
      </Box>
      <Box component="td" sx={{ textAlign: 'right', whiteSpace: 'nowrap' }}>
        {deleted ? (
          <>
            <Action
              label={`Restore ${sound.name}`}
              icon={RotateCcw}
              onClick={() => {
                onRestore(sound);
              }}
            />
            <Action
              label={`Purge ${sound.name}`}
              icon={Trash2}
              onClick={() => {
                onPurge(sound);
              }}
            />
          </>
        ) : (
          <>
            <Action
              label={`Duplicate ${sound.name}`}
              icon={Copy}
              onClick={() => {
                onDuplicate(sound.id);
              }}
            />
            <Action
              label={`Export ${sound.name}`}
              icon={Download}
              onClick={() => {
                newestState(sound.id).then(saveToFile).catch(tellError);
              }}
            />
            <Action
              label={`Delete ${sound.name}`}
              icon={Trash2}
              onClick={() => {
                onDelete(sound);
              }}
            />
          </>
        )}
      </Box>
    </tr>
  );
}

/** The sounds of the library, or those that were deleted. */
export function SoundTable({ sounds, ...actions }: Actions & { readonly sounds: readonly SoundSummary[] }) {
  return (
    <Box
      component="table"
      aria-label={actions.deleted ? 'Deleted sounds' : 'Sounds'}
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
        '& thead td': { borderTop: 0 },
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
          <th>{actions.deleted ? 'Deleted' : 'Changed'}</th>
          <td />
        </tr>
      </thead>
      <tbody>
        {sounds.map((sound) => (
          <Row key={sound.id} sound={sound} {...actions} />
        ))}
      </tbody>
    </Box>
  );
}
