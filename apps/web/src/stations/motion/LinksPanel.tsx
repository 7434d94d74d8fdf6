import {
  formatValue,
  fromPosition,
  linkTargets,
  movableValues,
  resolveTarget,
  targetLabel,
  toPosition,
  type SoundDocument,
} from '@abyssal/core';
import { Box, Button, IconButton, Menu, MenuItem } from '@mui/material';
import { X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { valueAt } from '../../controls/path';
import { edit, useDocument } from '../../state/document-store';
import { freeId } from '../../state/free-id';
import { Switch } from '../../controls/Switch';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { TraceLine } from './TraceLine';

/**
 * The value of a target as the document has it; null where its tone is of another kind at present, so that
 * the link waits.
 */
function baseOf(document: SoundDocument, target: string): number | null {
  const found = resolveTarget(document, target);
  if (found?.layerId == null) return found ? (valueAt(document, target.split('.')) as number) : null;
  const layer = document.layers.find(({ id }) => id === found.layerId)!;
  return movableValues(layer).find(({ field }) => field === found.field)?.value ?? null;
}

/** Where a target stands over the loop, 0 to 1 of its range, with all its links. */
function carried(
  document: SoundDocument,
  target: string,
  base: number,
  traces: ReadonlyMap<string, Float32Array>,
): Float32Array {
  const links = document.links.filter((link) => link.on && link.target === target);
  const length = traces.values().next().value?.length ?? 0;
  return Float32Array.from({ length }, (_, i) =>
    Math.min(
      1,
      Math.max(
        0,
        links.reduce((sum, link) => sum + (link.reachPct / 100) * (traces.get(link.mover)?.[i] ?? 0), base),
      ),
    ),
  );
}

/** What a mover moves, how far, and the value as it runs over the loop. */
export function LinksPanel({
  moverId,
  traces,
}: {
  readonly moverId: string;
  readonly traces: ReadonlyMap<string, Float32Array>;
}) {
  const document = useDocument();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const targets = useMemo(() => linkTargets(document), [document]);
  const mine = document.links
    .map((link, index) => ({ link, index }))
    .filter(({ link }) => link.mover === moverId);
  const free = targets.filter(({ target }) => !mine.some(({ link }) => link.target === target));
  const add = (target: string) => {
    setAnchor(null);
    edit('new link', (draft) => {
      draft.links.push({
        id: freeId(document.links, (n) => `link-${n}`),
        mover: moverId,
        target,
        reachPct: 25,
        on: true,
      });
    });
  };
  return (
    <Panel
      title="What it moves"
      aside={
        <>
          the value over the loop
          <Button
            variant="outlined"
            onClick={(event) => {
              setAnchor(event.currentTarget);
            }}
          >
            Link…
          </Button>
        </>
      }
    >
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => {
          setAnchor(null);
        }}
        slotProps={{ paper: { sx: { maxHeight: 360 } } }}
      >
        {free.map(({ target, label }) => (
          <MenuItem
            key={target}
            dense
            onClick={() => {
              add(target);
            }}
          >
            {label}
          </MenuItem>
        ))}
      </Menu>
      {mine.length === 0 && (
        <Box sx={{ color: sea.ink2, py: 1 }}>It moves nothing yet. Link it to a parameter to hear it.</Box>
      )}
      {mine.map(({ link, index }) => {
        const target = resolveTarget(document, link.target);
        if (!target) return null;
        const found = { label: targetLabel(document, link.target) ?? link.target, row: target.row };
        const base = baseOf(document, link.target);
        if (base === null) {
          return (
            <Box
              key={link.id}
              sx={{
                display: 'flex',
                alignItems: 'center',
                justifyContent: 'space-between',
                borderTop: `1px solid ${sea.hair}`,
                py: '3px',
                fontSize: TYPE.control,
                color: sea.ink2,
              }}
            >
              {found.label} waits: the tone is of another kind at present.
              <IconButton
                size="small"
                aria-label={`Remove the link to ${found.label}`}
                onClick={() => {
                  edit('remove link', (draft) => {
                    draft.links.splice(index, 1);
                  });
                }}
              >
                <X size={14} />
              </IconButton>
            </Box>
          );
        }
        const position = toPosition(found.row, base);
        const values = carried(document, link.target, position, traces);
        let low = 1;
        let high = 0;
        for (const value of values) {
          low = Math.min(low, value);
          high = Math.max(high, value);
        }
        const say = (at: number) => formatValue(found.row, fromPosition(found.row, at));
        return (
          <Box
            key={link.id}
            sx={{
              display: 'grid',
              gridTemplateColumns: 'minmax(0, 3.2fr) minmax(0, 1fr) 78px 24px',
              gap: 1,
              alignItems: 'center',
              borderTop: `1px solid ${sea.hair}`,
              py: '3px',
              opacity: link.on ? 1 : 0.5,
            }}
          >
            <Box sx={{ display: 'flex', alignItems: 'center', gap: '6px', minWidth: 0 }}>
              <Switch
                label={`${found.label}, link on`}
                on={link.on}
                onToggle={() => {
                  edit('link', (draft) => {
                    draft.links[index].on = !link.on;
                  });
                }}
              />
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <ParameterRow
                  path={['links', index, 'reachPct']}
                  label={found.label}
                  labelWidth={165}
                  linkRoom={false}
                />
              </Box>
            </Box>
            <TraceLine values={values} label={`${found.label} over the loop: ${say(low)} to ${say(high)}`} />
            <Box
              aria-hidden
              sx={{ fontSize: TYPE.note, lineHeight: 1.25, color: sea.ink2, whiteSpace: 'nowrap' }}
            >
              {say(low)} to
              <br />
              {say(high)}
            </Box>
            <IconButton
              size="small"
              aria-label={`Remove the link to ${found.label}`}
              onClick={() => {
                edit('remove link', (draft) => {
                  draft.links.splice(index, 1);
                });
              }}
            >
              <X size={14} />
            </IconButton>
          </Box>
        );
      })}
    </Panel>
  );
}
