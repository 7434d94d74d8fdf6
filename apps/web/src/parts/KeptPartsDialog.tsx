import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  IconButton,
  List,
  ListItem,
  ListItemButton,
  ListItemText,
} from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { NoAnswer } from '../controls/NoAnswer';
import { listParts, type PartSummary } from '../api/parts';
import { useRemovePart } from './use-remove-part';

interface KeptPartsDialogProps {
  readonly kind: PartSummary['kind'];
  readonly title: string;
  /** What is said while none is kept: how to keep one. */
  readonly empty: string;
  readonly onClose: () => void;
  readonly onChoose: (id: string) => void;
}

/**
 * The parts of a kind that were kept in the library, to be fetched into the open sound or taken out of the
 * library.
 */
export function KeptPartsDialog({ kind, title, empty, onClose, onChoose }: KeptPartsDialogProps) {
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['parts', kind],
    queryFn: () => listParts(kind),
  });
  const remove = useRemovePart(kind);
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <DialogTitle>{title}</DialogTitle>
      <DialogContent dividers>
        {isPending && 'Looking…'}
        {error && <NoAnswer who="The library" again={refetch} />}
        {data?.length === 0 && empty}
        {data && data.length > 0 && (
          <List dense>
            {data.map((part) => (
              <ListItem
                key={part.id}
                disablePadding
                secondaryAction={
                  <IconButton
                    size="small"
                    edge="end"
                    aria-label={`Remove ${part.name} from the library`}
                    disabled={remove.isPending}
                    onClick={() => {
                      remove.mutate(part);
                    }}
                  >
                    <Trash2 size={16} />
                  </IconButton>
                }
              >
                <ListItemButton
                  onClick={() => {
                    onChoose(part.id);
                  }}
                >
                  <ListItemText primary={part.name} secondary={new Date(part.keptAt).toLocaleString()} />
                </ListItemButton>
              </ListItem>
            ))}
          </List>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
