import { MACRO_IDS, resolveTarget, targetLabel, type Lane } from '@abyssal/core';
import { Box, Button, IconButton } from '@mui/material';
import { X } from 'lucide-react';
import { memo, useState } from 'react';
import { Switch } from '../controls/Switch';
import { TargetChooser } from '../controls/TargetChooser';
import { drawTicks } from '../state/draw-ticks';
import { addLane, full } from '../state/link-edits';
import { edit, presentSound, useSound } from '../state/document-store';
import { tell } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { LaneEditor } from './LaneEditor';

/** Adds a lane for a parameter or macro. */
export function AddLane() {
  const lanes = useSound((sound) => sound.lanes);
  const links = useSound((sound) => sound.links);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const add = (target: string) => {
    setAnchor(null);
    edit('new lane', (draft) => {
      addLane(draft, target);
    });
  };
  return (
    <>
      <Button
        variant="outlined"
        onClick={(event) => {
          const why = full(presentSound(), 'lanes');
          if (why) tell(why);
          else setAnchor(event.currentTarget);
        }}
      >
        Automate…
      </Button>
      <TargetChooser
        taken={[...lanes.map(({ target }) => target), ...links.map(({ id }) => `links.${id}.reachPct`)]}
        first={MACRO_IDS.map((id) => `macros.${id}.valuePct`)}
        anchor={anchor}
        label="What is automated"
        onChoose={add}
        onClose={() => {
          setAnchor(null);
        }}
      />
    </>
  );
}

/** All lanes, each with its editor; `left` is the room under what stands above. */
export function LaneList({ left = 0 }: { readonly left?: number }) {
  const lanes = useSound((sound) => sound.lanes);
  return lanes.map((lane, index) => <LaneRow key={lane.target} lane={lane} index={index} left={left} />);
}

/** One lane: what it moves, whether it is on, and its editor. */
const LaneRow = memo(function LaneRow({
  lane,
  index,
  left,
}: {
  readonly lane: Lane;
  readonly index: number;
  readonly left: number;
}) {
  const bars = useSound(({ ground }) => ground.bars);
  const gridTicks = useSound(drawTicks);
  const row = useSound((sound) => resolveTarget(sound, lane.target)?.row ?? null);
  const label = useSound((sound) => targetLabel(sound, lane.target) ?? lane.target);
  if (!row) return null;
  return (
    <Box sx={{ borderTop: `1px solid ${sea.hair}`, pt: '3px' }}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: '6px',
          pl: `${left}px`,
          fontSize: TYPE.label,
        }}
      >
        <Switch
          label={`${label}, lane on`}
          on={lane.on}
          onToggle={() => {
            edit('lane', (draft) => {
              draft.lanes[index].on = !lane.on;
            });
          }}
        />
        <Box component="span" sx={{ flex: 1 }}>
          {label}
        </Box>
        <IconButton
          size="small"
          aria-label={`Remove the lane of ${label}`}
          onClick={() => {
            edit('remove lane', (draft) => {
              draft.lanes.splice(index, 1);
            });
          }}
        >
          <X size={14} />
        </IconButton>
      </Box>
      <LaneEditor
        lane={lane}
        row={row}
        label={label}
        bars={bars}
        gridTicks={gridTicks}
        left={left}
        onChange={(points, group) => {
          edit(
            `${label} · lane`,
            (draft) => {
              draft.lanes[index].points = [...points];
            },
            group && `${lane.target} ${group}`,
          );
        }}
      />
    </Box>
  );
});
