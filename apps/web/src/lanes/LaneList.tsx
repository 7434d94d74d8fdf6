import {
  MACRO_IDS,
  MOST_LANES,
  parseDivision,
  resolveTarget,
  targetLabel,
  TICKS_PER_BEAT,
  toPosition,
} from '@abyssal/core';
import { Box, Button, IconButton } from '@mui/material';
import { X } from 'lucide-react';
import { useState } from 'react';
import { pathOf, valueAt } from '../controls/path';
import { Switch } from '../controls/Switch';
import { TargetChooser } from '../controls/TargetChooser';
import { flatLane } from '../state/flat-lane';
import { edit, useDocument } from '../state/document-store';
import { tell } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { LaneEditor } from './LaneEditor';

/** Adds a lane for a parameter or macro. */
export function AddLane() {
  const document = useDocument();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const add = (target: string) => {
    setAnchor(null);
    const found = resolveTarget(document, target);
    const path = pathOf(document, target);
    if (!found || !path) return;
    edit('new lane', (draft) => {
      const at = toPosition(found.row, valueAt(document, path) as number);
      draft.lanes.push({ target, on: true, points: flatLane(at, document.ground.bars) });
    });
  };
  return (
    <>
      <Button
        variant="outlined"
        onClick={(event) => {
          if (document.lanes.length >= MOST_LANES)
            tell(`There are ${MOST_LANES} lanes, as many as a sound takes. Remove one first.`);
          else setAnchor(event.currentTarget);
        }}
      >
        Automate…
      </Button>
      <TargetChooser
        document={document}
        taken={[
          ...document.lanes.map(({ target }) => target),
          ...document.links.map(({ id }) => `links.${id}.reachPct`),
        ]}
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
  const document = useDocument();
  const { lanes, ground, drawStep } = document;
  const gridTicks = Math.round(parseDivision(drawStep)! * TICKS_PER_BEAT);
  return (
    <>
      {lanes.map((lane, index) => {
        const found = resolveTarget(document, lane.target);
        const label = targetLabel(document, lane.target) ?? lane.target;
        if (!found) return null;
        return (
          <Box key={lane.target} sx={{ borderTop: `1px solid ${sea.hair}`, pt: '3px' }}>
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
              row={found.row}
              label={label}
              bars={ground.bars}
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
      })}
    </>
  );
}
