import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, List, ListItemButton, ListItemText } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { listParts } from '../../api/parts';

/** The layers that were kept in the library, to be fetched into the open sound. */
export function KeptLayersDialog({ onClose, onChoose }: { readonly onClose: () => void; readonly onChoose: (id: string) => void }) {
  const { data, error, isPending, refetch } = useQuery({ queryKey: ['parts', 'layer'], queryFn: () => listParts('layer') });
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <DialogTitle>Kept layers</DialogTitle>
      <DialogContent dividers>
        {isPending && 'Looking…'}
        {error && <Box>The library does not answer. <Button onClick={() => { void refetch(); }}>Try again</Button></Box>}
        {data?.length === 0 && 'No layer is kept yet. Keep one by “Keep in the library” beside a layer’s name.'}
        {data && data.length > 0 && (
          <List dense>
            {data.map(({ id, name, keptAt }) => <ListItemButton key={id} onClick={() => { onChoose(id); }}><ListItemText primary={name} secondary={new Date(keptAt).toLocaleString()} /></ListItemButton>)}
          </List>
        )}
      </DialogContent>
      <DialogActions><Button onClick={onClose}>Close</Button></DialogActions>
    </Dialog>
  );
}
