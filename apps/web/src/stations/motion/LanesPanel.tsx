import { Box } from '@mui/material';
import { Choice } from '../../controls/Choice';
import { Panel } from '../../controls/Panel';
import { AddLane, LaneList } from '../../lanes/LaneList';
import { useRecorder } from '../../recording/recorder';
import { useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';

/** Parameters and macros over the loop, drawn or recorded. */
export function LanesPanel() {
  const { armed, way } = useRecorder();
  const none = useSound((sound) => sound.lanes.length === 0);
  return (
    <Panel
      title="Automation"
      aside={
        <>
          <span>{armed ? 'each round of moves' : 'recorded moves'}</span>
          <Choice
            label="Recorded moves"
            options={[
              { value: 'replace', label: 'replace the lane' },
              { value: 'add to', label: 'add to it' },
            ]}
            value={way}
            onChange={(next) => {
              useRecorder.setState({ way: next });
            }}
          />
          <AddLane />
        </>
      }
    >
      {none && (
        <Box sx={{ color: sea.ink2, lineHeight: 1.5 }}>
          No lanes yet. Automate a parameter or a macro to draw it over the loop; or press the circle beside
          Play, play, and move something.
        </Box>
      )}
      <LaneList />
    </Panel>
  );
}
