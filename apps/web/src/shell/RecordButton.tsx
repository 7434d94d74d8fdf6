import { IconButton, Tooltip } from '@mui/material';
import { Circle } from 'lucide-react';
import { arm, useRecorder } from '../recording/recorder';
import { sea } from '../theme/sea';

/** Arms: while the loop plays, what is moved by hand is written over it. */
export function RecordButton() {
  const armed = useRecorder((state) => state.armed);
  return (
    <Tooltip title="Write moves over the loop while it plays" disableInteractive>
      <IconButton
        aria-label={armed ? 'Stop writing moves' : 'Write moves'}
        aria-pressed={armed}
        size="small"
        onClick={() => {
          arm(!armed);
        }}
        sx={{
          width: 24,
          height: 24,
          p: 0,
          flex: 'none',
          border: `1px solid ${armed ? sea.note : sea.rule}`,
          color: armed ? sea.note : sea.ink2,
        }}
      >
        <Circle size={13} fill={armed ? 'currentColor' : 'none'} />
      </IconButton>
    </Tooltip>
  );
}
