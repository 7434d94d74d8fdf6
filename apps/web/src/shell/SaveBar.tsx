import { Box, Button } from '@mui/material';
import { useKeeping } from '../browser/journals';
import { saveToFile } from '../files/save-to-file';
import { useDocumentStore } from '../state/document-store';
import { saveNow, useSession, type SaveState } from '../state/session';
import { tellError } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

/** What is said above a station while the work is not saved, and why it is not. */
function sentenceOf(save: SaveState, reason: string | null, unkept: string | null): string | null {
  const safe = unkept ? `${unkept} Save to a file before you close this page.` : null;
  // While it is being tried again, what went wrong still stands.
  const tryingAgain = reason !== null && (save === 'saving' || save === 'unsaved');
  if (save === 'away' || tryingAgain)
    return safe ?? reason ?? 'Your work stays in this browser until the server answers.';
  if (save === 'failed' || save === 'refused')
    return `Not saved: ${reason ?? 'something went wrong.'} ${safe ?? 'It is tried again by itself, and your work stays in this browser.'}`;
  return save === 'saved' ? null : safe;
}

/** Why the work is not saved, and the ways on: try again at once, or save it as a file. */
export function SaveBar() {
  const { save, reason } = useSession();
  const unkept = useKeeping((state) => state.failure);
  const sentence = sentenceOf(save, reason, unkept);
  if (!sentence) return null;
  return (
    <Box
      role="alert"
      data-save-bar={save}
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        mb: 1,
        p: '4px 10px',
        border: `1px solid ${sea.short}`,
        bgcolor: sea.sheet,
        fontSize: TYPE.control,
      }}
    >
      <Box sx={{ flex: 1 }}>{sentence}</Box>
      <Button size="small" onClick={saveNow}>
        Save now
      </Button>
      <Button
        size="small"
        variant="outlined"
        onClick={() => {
          const { document } = useDocumentStore.getState();
          if (document) saveToFile(document).catch(tellError);
        }}
      >
        Save to file
      </Button>
    </Box>
  );
}
