import { cleanSystem, findSystemProblems, MOST_SYSTEMS, SYSTEMS, type OwnSystem } from '@abyssal/core';
import { Box, Button, IconButton } from '@mui/material';
import { Archive, Pencil, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Switch } from '../../controls/Switch';
import { KeptPartsDialog } from '../../parts/KeptPartsDialog';
import { fetchPartAs, keepInLibrary } from '../../parts/kept-parts';
import { edit, useSound } from '../../state/document-store';
import { freeId } from '../../state/free-id';
import { tell, tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { SystemDialog } from './SystemDialog';

/** Adds a system under a free id, as one undo step. */
function add(system: OwnSystem): string {
  let id = '';
  edit(`add ${system.name}`, (draft) => {
    id = freeId(draft.systems.own, (n) => `own-${n}`);
    draft.systems.own.push({ ...system, id });
  });
  return id;
}

function toggle(id: string, name: string, on: boolean): void {
  edit(on ? `${name} matters` : `leave out ${name}`, (draft) => {
    const { systems } = draft;
    systems.leftOut = on ? systems.leftOut.filter((other) => other !== id) : [...systems.leftOut, id];
  });
}

/** Which playback systems matter for the sound, and those of the user's own. */
export function SystemsPanel() {
  const { own, leftOut } = useSound((sound) => sound.systems);
  const [open, setOpen] = useState<string | null>(null);
  const [fetching, setFetching] = useState(false);
  const opened = own.findIndex(({ id }) => id === open);
  return (
    <>
      <Box sx={{ fontSize: TYPE.note, color: sea.ink2, mb: '2px' }}>
        Those that are on matter: every note should be felt or implied on them.
      </Box>
      <Box component="ul" sx={{ m: 0, p: 0 }}>
        {[...SYSTEMS, ...own].map(({ id, name }) => {
          const on = !leftOut.includes(id);
          const mine = own.find((each) => each.id === id);
          return (
            <Box
              component="li"
              key={id}
              sx={{
                listStyle: 'none',
                display: 'flex',
                alignItems: 'center',
                gap: '6px',
                fontSize: TYPE.control,
              }}
            >
              <Switch
                label={`${name} matters`}
                on={on}
                onToggle={() => {
                  toggle(id, name, !on);
                }}
              />
              <Box
                sx={{
                  flex: 1,
                  minWidth: 0,
                  overflow: 'hidden',
                  textOverflow: 'ellipsis',
                  whiteSpace: 'nowrap',
                  color: on ? undefined : sea.ink2,
                }}
              >
                {name}
              </Box>
              {mine && (
                <>
                  <IconButton
                    size="small"
                    aria-label={`Edit ${name}`}
                    onClick={() => {
                      setOpen(id);
                    }}
                  >
                    <Pencil size={15} />
                  </IconButton>
                  <IconButton
                    size="small"
                    aria-label={`Keep ${name} in the library`}
                    onClick={() => {
                      keepInLibrary('system', name || 'System', mine).then(() => {
                        tell(`${name} is kept in the library.`);
                      }, tellError);
                    }}
                  >
                    <Archive size={15} />
                  </IconButton>
                  <IconButton
                    size="small"
                    aria-label={`Remove ${name}`}
                    onClick={() => {
                      edit(`remove ${name}`, (draft) => {
                        draft.systems.own = draft.systems.own.filter((each) => each.id !== id);
                        draft.systems.leftOut = draft.systems.leftOut.filter((other) => other !== id);
                      });
                    }}
                  >
                    <Trash2 size={15} />
                  </IconButton>
                </>
              )}
            </Box>
          );
        })}
      </Box>
      <Box sx={{ display: 'flex', gap: '6px', mt: '4px' }}>
        <Button
          size="small"
          variant="outlined"
          disabled={own.length >= MOST_SYSTEMS}
          onClick={() => {
            setOpen(add(cleanSystem('own')));
          }}
        >
          Add a system
        </Button>
        <Button
          size="small"
          disabled={own.length >= MOST_SYSTEMS}
          onClick={() => {
            setFetching(true);
          }}
        >
          From the library
        </Button>
      </Box>
      {opened >= 0 && (
        <SystemDialog
          index={opened}
          onClose={() => {
            setOpen(null);
          }}
        />
      )}
      {fetching && (
        <KeptPartsDialog
          kind="system"
          title="Systems from the library"
          empty="No system is kept yet: the box beside one of your own keeps it."
          onClose={() => {
            setFetching(false);
          }}
          onChoose={(id) => {
            setFetching(false);
            fetchPartAs<OwnSystem>(id, findSystemProblems).then(add, tellError);
          }}
        />
      )}
    </>
  );
}
