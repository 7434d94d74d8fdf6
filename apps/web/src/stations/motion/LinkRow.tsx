import {
  DEPTH_BANDS_HZ,
  formatDivision,
  formatValue,
  fromPosition,
  MACRO_IDS,
  nearestDivision,
  resolveTarget,
  targetLabel,
  toPosition,
  type Link,
} from '@abyssal/core';
import { Box, IconButton } from '@mui/material';
import { Settings2, X } from 'lucide-react';
import { memo, useState } from 'react';
import { Choice } from '../../controls/Choice';
import { ParameterRow } from '../../controls/ParameterRow';
import { pathOf, valueAt } from '../../state/path';
import { Row } from '../../controls/Row';
import { Switch } from '../../controls/Switch';
import { useSounding } from '../../sounding/sounding-store';
import { edit, presentSound, useSound } from '../../state/document-store';
import { tell } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { circleOf, removeLink } from '../../state/link-edits';
import { ReachField } from './ReachField';
import { TraceLine } from './TraceLine';
import { whyUnheard } from './unheard';

/** A layer sounds up to where its spectrum is this far under its loudest band, in dB. */
const SOUNDS_DB = 50;

/** The highest frequency that sounds in the layer of a target, as it was measured last. */
function useHighest(target: string): number | null {
  const id = /^layers\.([a-z0-9-]+)\./.exec(target)?.[1];
  const levels = useSounding(({ shown }) => shown?.depth.layers.find((layer) => layer.id === id)?.levels);
  if (!levels) return null;
  const most = levels.reduce((a, b) => Math.max(a, b), -Infinity);
  for (let i = levels.length - 1; i >= 0; i--) if (levels[i] > most - SOUNDS_DB) return DEPTH_BANDS_HZ[i];
  return null;
}

const NONE: readonly number[] = [];

interface LinkRowProps {
  readonly link: Link;
  readonly values: Float32Array | undefined;
  /** Whether what moves is named rather than what is moved. */
  readonly nameMover?: string;
}

/** One link: on or off, how far it reaches, what it makes of its parameter over the loop, and its settings. */
export const LinkRow = memo(function LinkRow({ link, values, nameMover }: LinkRowProps) {
  const [open, setOpen] = useState(false);
  const index = useSound(({ links }) => links.indexOf(link));
  const highest = useHighest(link.target);
  const row = useSound((sound) => resolveTarget(sound, link.target)?.row ?? null);
  const target = useSound((sound) => targetLabel(sound, link.target) ?? link.target);
  const value = useSound((sound) => {
    const path = pathOf(sound, link.target);
    return path && (valueAt(sound, path) as number);
  });
  const trace = values ?? NONE;
  const at = row && value !== null ? toPosition(row, value) : 0;
  const why = useSound(
    (sound) =>
      row &&
      whyUnheard(sound, link, sound.movers.find(({ id }) => id === link.mover) ?? null, {
        row,
        at,
        values: trace,
        loudestHz: highest,
      }),
  );
  if (!row) return null;
  const label = nameMover ?? target;
  const remove = (
    <IconButton
      size="small"
      aria-label={`Remove the link to ${target}`}
      onClick={() => {
        edit('remove link', (draft) => {
          removeLink(draft, link.id);
        });
      }}
    >
      <X size={14} />
    </IconButton>
  );
  const frame = { borderTop: `1px solid ${sea.hair}`, py: '3px' };
  if (value === null)
    return (
      <Box
        sx={{
          ...frame,
          display: 'flex',
          alignItems: 'center',
          justifyContent: 'space-between',
          fontSize: TYPE.control,
          color: sea.ink2,
        }}
      >
        {label} waits: the tone is of another kind at present.
        {remove}
      </Box>
    );
  const macro = MACRO_IDS.includes(link.mover);
  const say = (place: number) => {
    const there = fromPosition(row, place);
    return (row.unit === 'beats' && formatDivision(nearestDivision(there))) || formatValue(row, there);
  };
  let low = 1;
  let high = 0;
  for (let i = 0; i < trace.length; i++) {
    low = Math.min(low, trace[i]);
    high = Math.max(high, trace[i]);
  }
  const change = (what: string, recipe: (draft: Link) => void, group: string | null = null) => {
    edit(`link · ${what}`, (draft) => recipe(draft.links[index]), group);
  };
  return (
    <Box sx={{ ...frame, opacity: link.on ? 1 : 0.55 }}>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'minmax(0, 2.8fr) 72px minmax(0, 1fr) 62px 24px 24px',
          gap: '6px',
          alignItems: 'center',
        }}
      >
        <Box sx={{ display: 'flex', alignItems: 'center', gap: '6px', minWidth: 0 }}>
          <Switch
            label={`${target}, link on`}
            on={link.on}
            onToggle={() => {
              // A link that is off may have been passed by since: on again it could close a circle.
              const sound = presentSound();
              const circle = circleOf(
                sound,
                sound.links.map((each) => (each === link ? { ...link, on: !link.on } : each)),
              );
              if (circle) return tell(circle);
              change(link.on ? 'off' : 'on', (draft) => {
                draft.on = !link.on;
              });
            }}
          />
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <ParameterRow path={['links', index, 'reachPct']} label={label} labelWidth={170} bare valueless />
          </Box>
        </Box>
        <ReachField
          row={row}
          label={`Reach on ${target}`}
          pct={link.reachPct}
          onChange={(pct) => {
            change('reach', (draft) => {
              draft.reachPct = pct;
            });
          }}
        />
        <TraceLine values={trace} label={`${target} over the loop: ${say(low)} to ${say(high)}`} />
        <Box
          aria-hidden
          sx={{
            fontSize: TYPE.note,
            lineHeight: 1.25,
            color: sea.ink2,
            whiteSpace: 'nowrap',
            overflow: 'hidden',
          }}
        >
          {trace.length > 0 && (
            <>
              {say(low)} to
              <br />
              {say(high)}
            </>
          )}
        </Box>
        <IconButton
          size="small"
          aria-label={`More of the link to ${target}`}
          aria-expanded={open}
          onClick={() => {
            setOpen(!open);
          }}
        >
          <Settings2 size={14} />
        </IconButton>
        {remove}
      </Box>
      {why && (
        <Box role="note" sx={{ fontSize: TYPE.control, color: sea.watch, pl: '30px' }}>
          ◐ {why}
        </Box>
      )}
      {open && (
        <Box
          sx={{
            pl: '30px',
            display: 'grid',
            gridTemplateColumns: 'repeat(auto-fit, minmax(260px, 1fr))',
            columnGap: 2,
          }}
        >
          {!macro && (
            <Row label="Carries">
              <Choice
                label="Carries"
                options={[
                  { value: 'one way', label: 'one way' },
                  { value: 'both ways', label: 'both ways' },
                ]}
                value={link.way}
                onChange={(way) => {
                  change(way, (draft) => {
                    draft.way = way;
                  });
                }}
              />
            </Row>
          )}
          {row.sided && (
            <Row label="Left and right">
              <Choice
                label="Left and right"
                options={[
                  { value: 'alike', label: 'alike' },
                  { value: 'opposed', label: 'opposed' },
                ]}
                value={link.sides}
                onChange={(sides) => {
                  change(sides, (draft) => {
                    draft.sides = sides;
                  });
                }}
              />
            </Row>
          )}
          {link.way === 'one way' && (
            <Row label={macro ? 'At 0' : 'From'}>
              <Box sx={{ width: 90 }}>
                <ReachField
                  row={row}
                  label={`Where ${target} is carried from`}
                  pct={link.fromPct}
                  onChange={(pct) => {
                    change('from', (draft) => {
                      draft.fromPct = pct;
                    });
                  }}
                />
              </Box>
              <Box component="span" sx={{ fontSize: TYPE.control, color: sea.ink2 }}>
                {say(at + link.fromPct / 100)} to {say(at + link.reachPct / 100)}
              </Box>
            </Row>
          )}
          <ParameterRow path={['links', index, 'bend']} label="Bend" bare />
        </Box>
      )}
    </Box>
  );
});
