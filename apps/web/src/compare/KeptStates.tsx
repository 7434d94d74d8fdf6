import { plain } from '@abyssal/core';
import { Box, Button, IconButton, List, ListItem, ListItemButton, ListItemText } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { FileText, Trash2 } from 'lucide-react';
import {
  keepState,
  listStates,
  readState,
  removeState,
  restoreState,
  type StateSummary,
} from '../api/states';
import { NoAnswer } from '../controls/NoAnswer';
import { NameDialog } from '../controls/NameDialog';
import { keepPresentSounding } from '../sounding/kept-sounding';
import { setOther, useOther } from '../sounding/other-store';
import { useSounding } from '../sounding/sounding-store';
import { useDocumentStore } from '../state/document-store';
import { sendRecordings } from '../state/recordings';
import { tell, tellError } from '../state/view-store';
import { TYPE } from '../theme/type';
import { useState } from 'react';

/** Figures that a state is told by. */
const TOLD: readonly string[] = ['heard', 'kickLock', 'loudness'];

/** “ · heard 6 / 7 · −11.1 LUFS”: what was measured of a state when it was kept. */
const figureWords = ({ figures }: StateSummary) =>
  TOLD.flatMap((id) => {
    const found = figures.find((figure) => figure.id === id);
    if (found?.value == null) return [];
    const number = plain(found.value, found.outOf === null ? 1 : 0);
    if (id === 'heard') return [` · heard ${number} / ${found.outOf}`];
    return [id === 'kickLock' ? ` · lock ${number} dB` : ` · ${number} LUFS`];
  }).join('');

/** The states of the open sound that were kept: kept, chosen to be set against it, taken out with a way back. */
export function KeptStates({ sound }: { readonly sound: string }) {
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: ['states', sound] });
  const { data, error, refetch } = useQuery({
    queryKey: ['states', sound],
    queryFn: () => listStates(sound),
  });
  const chosen = useOther(({ other }) => (other?.kind === 'state' ? other.id : null));
  const [naming, setNaming] = useState(false);
  const keep = useMutation({
    mutationFn: async (name: string) => {
      const document = useDocumentStore.getState().document!;
      await sendRecordings(document);
      const kept = await keepState(sound, name, document);
      // Where it is measured by now, that is kept with it; else the state has none, and stays as it is.
      if (useSounding.getState().of === document) await keepPresentSounding(kept.id).catch(() => undefined);
      return kept;
    },
    onSuccess: (kept) => {
      tell(`This state is kept as “${kept.name}”.`);
      return refresh();
    },
    onError: tellError,
  });
  const remove = useMutation({
    mutationFn: ({ id }: StateSummary) => removeState(sound, id),
    onSuccess: (_done, { id, name }) => {
      if (chosen === id) setOther(null);
      tell(`“${name}” is no longer kept.`, {
        label: 'Undo',
        run: () => {
          restoreState(sound, id).then(refresh, tellError);
        },
      });
      return refresh();
    },
    onError: tellError,
  });
  const choose = ({ id }: StateSummary) => {
    readState(sound, id).then(({ name, document }) => {
      setOther({ kind: 'state', id, name, document });
    }, tellError);
  };
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <Box sx={{ fontWeight: 500 }}>Kept states</Box>
        <Button
          size="small"
          variant="outlined"
          disabled={keep.isPending}
          onClick={() => {
            setNaming(true);
          }}
        >
          Keep this state
        </Button>
      </Box>
      {error && <NoAnswer who="The server" again={refetch} />}
      {data?.length === 0 && (
        <Box sx={{ fontSize: TYPE.note }}>
          None yet: a state that is kept can be heard and measured against later ones.
        </Box>
      )}
      <List dense disablePadding sx={{ maxHeight: 180, overflowY: 'auto' }}>
        {data?.map((state) => (
          <ListItem
            key={state.id}
            disablePadding
            secondaryAction={
              <>
                {state.figures.length > 0 && (
                  <IconButton
                    size="small"
                    component="a"
                    href={`/soundings/${state.id}`}
                    target="_blank"
                    aria-label={`What was measured of ${state.name}`}
                  >
                    <FileText size={15} />
                  </IconButton>
                )}
                <IconButton
                  size="small"
                  edge="end"
                  aria-label={`Remove ${state.name}`}
                  onClick={() => {
                    remove.mutate(state);
                  }}
                >
                  <Trash2 size={15} />
                </IconButton>
              </>
            }
          >
            <ListItemButton
              selected={chosen === state.id}
              onClick={() => {
                choose(state);
              }}
            >
              <ListItemText
                primary={state.name}
                secondary={`${new Date(state.keptAt).toLocaleString()}${figureWords(state)}`}
              />
            </ListItemButton>
          </ListItem>
        ))}
      </List>
      {naming && (
        <NameDialog
          title="Keep this state"
          onClose={() => {
            setNaming(false);
          }}
          onName={(name) => {
            keep.mutate(name);
          }}
        />
      )}
    </>
  );
}
