import { Box, Button } from '@mui/material';
import { Circle, Square } from 'lucide-react';
import { Choice } from '../../controls/Choice';
import { Panel } from '../../controls/Panel';
import { Row } from '../../controls/Row';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { recordNotes, stopNotes, useNoteRecorder } from '../../recording/note-recorder';
import { tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';

/** Recording of what is played: from keys, pads or a controller. */
export function RecordPanel() {
  const { on, way, countIn, click } = useNoteRecorder();
  return (
    <Panel title="Record notes">
      <Row label="What is there">
        <Choice
          label="What is there"
          options={[
            { value: 'overdub', label: 'stays (overdub)' },
            { value: 'replace', label: 'is replaced' },
          ]}
          value={way}
          onChange={(next) => {
            useNoteRecorder.setState({ way: next });
          }}
        />
      </Row>
      <Box sx={{ display: 'flex', gap: 2 }}>
        <ToggleTitle
          label="count-in, one bar"
          on={countIn}
          onToggle={() => {
            useNoteRecorder.setState({ countIn: !countIn });
          }}
        />
        <ToggleTitle
          label="click"
          on={click}
          onToggle={() => {
            useNoteRecorder.setState({ click: !click });
          }}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 1, mt: '6px', alignItems: 'center' }}>
        <Button
          variant="contained"
          startIcon={on ? <Square size={12} fill="currentColor" /> : <Circle size={12} fill="currentColor" />}
          onClick={() => {
            if (on) stopNotes();
            else recordNotes().catch(tellError);
          }}
        >
          {on ? 'Stop recording' : 'Record'}
        </Button>
        <Box component="span" role="status" sx={{ fontSize: TYPE.control, color: on ? sea.note : sea.ink2 }}>
          {on ? 'Play: each round is written as it ends.' : 'No bounce has the click.'}
        </Box>
      </Box>
    </Panel>
  );
}
