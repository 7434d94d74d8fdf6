import { Box } from '@mui/material';
import { Panel } from '../../controls/Panel';
import { AddLane, LaneList } from '../../lanes/LaneList';
import { useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';

/** Parameters and macros over the loop, drawn or recorded. */
export function LanesPanel() {
  const none = useSound((sound) => sound.lanes.length === 0);
  return (
    <Panel title="Automation" aside={<AddLane />}>
      {none && (
        <Box sx={{ color: sea.ink2, lineHeight: 1.5 }}>
          No lanes yet. Automate a parameter or a macro to draw it over the loop, or record a move.
        </Box>
      )}
      <LaneList />
    </Panel>
  );
}
