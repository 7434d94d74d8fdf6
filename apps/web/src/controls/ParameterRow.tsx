import {
  clampValue,
  formatValue,
  fromPosition,
  parameter,
  toPosition,
  type SoundDocument,
} from '@abyssal/core';
import { Box, Link, Tooltip } from '@mui/material';
import { memo } from 'react';
import { useNavigate } from 'react-router';
import { edit, useSound } from '../state/document-store';
import { useSession } from '../state/session';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { linkTarget, rowId, setAt, valueAt, type Path } from './path';
import { Track } from './Track';
import { ValueField } from './ValueField';

interface ParameterRowProps {
  readonly path: Path;
  readonly label?: string;
  /** Width of the label in pixels. */
  readonly labelWidth?: number;
  /** What undo calls it; the label where it is not given. */
  readonly of?: string;
  readonly disabled?: boolean;
  /** Whether room is kept for the word that opens links where there are none, so that rows line up. */
  readonly linkRoom?: boolean;
}

/**
 * How far links carry a place: the least and the greatest position that its movers ask for, and how many
 * links there are.
 */
function carriedBy(document: Pick<SoundDocument, 'links' | 'movers'>, target: string, position: number) {
  const links = document.links.filter((link) => link.target === target);
  let low = position;
  let high = position;
  for (const link of links) {
    if (!link.on || !document.movers.some((mover) => mover.id === link.mover && mover.on)) continue;
    if (link.reachPct > 0) high += link.reachPct / 100;
    else low += link.reachPct / 100;
  }
  return { links, range: low < high ? ([low, high] as const) : null };
}

/** Rows get a new path at each render of what they stand in: they are the same while its parts are. */
const same = (a: ParameterRowProps, b: ParameterRowProps) =>
  a.path.join() === b.path.join() &&
  a.label === b.label &&
  a.labelWidth === b.labelWidth &&
  a.of === b.of &&
  a.disabled === b.disabled &&
  a.linkRoom === b.linkRoom;

/**
 * One number of the document: label, slider with a tick, value, and a word that opens its links. Rendered
 * again only when one of these changes.
 */
export const ParameterRow = memo(function ParameterRow({
  path,
  label,
  labelWidth = 96,
  of,
  disabled = false,
  linkRoom = true,
}: ParameterRowProps) {
  const navigate = useNavigate();
  const soundId = useSession((state) => state.id);
  const row = parameter(useSound((sound) => rowId(sound, path)));
  const value = useSound((sound) => valueAt(sound, path)) as number;
  const target = useSound((sound) => linkTarget(sound, path));
  const allLinks = useSound((sound) => sound.links);
  const movers = useSound((sound) => sound.movers);
  const a4Hz = useSound((sound) => sound.ground.a4Hz);
  const text = label ?? row.label;
  const position = toPosition(row, value);
  const { links, range } = row.movable
    ? carriedBy({ links: allLinks, movers }, target, position)
    : { links: [], range: null };
  const key = path.join('.');
  const set = (next: number) => {
    const kept = clampValue(row, next);
    if (kept !== value)
      edit(
        `${of ? `${of} · ` : ''}${text.toLowerCase()}`,
        (draft) => {
          setAt(draft, path, kept);
        },
        key,
      );
  };
  const round = (next: number) =>
    row.scale === 'log' ? Number(next.toPrecision(4)) : Math.round(next / row.step) * row.step;
  const step = (steps: number, fine: boolean) => {
    if (row.whole) set(value + steps);
    else if (row.scale === 'log') set(fromPosition(row, position + steps * (fine ? 0.0025 : 0.02)));
    else
      set(
        Number(
          (
            value +
            steps * row.step * (fine ? 1 : Math.max(1, Math.round((row.max - row.min) / row.step / 50)))
          ).toFixed(6),
        ),
      );
  };
  const origin = row.min < 0 && row.max > 0 && row.scale === 'linear' ? toPosition(row, 0) : 0;
  const openLinks = () => {
    useView.setState({ moverId: links[0].mover });
    void navigate(`/sounds/${soundId}/motion`);
  };
  return (
    <Tooltip title={row.help} placement="top-start" describeChild disableInteractive>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 1,
          height: 26,
          opacity: disabled ? 0.45 : 1,
          pointerEvents: disabled ? 'none' : undefined,
        }}
      >
        <Box
          component="span"
          sx={{
            flex: `0 1 ${labelWidth}px`,
            minWidth: Math.min(48, labelWidth),
            color: sea.ink2,
            fontSize: TYPE.label,
            whiteSpace: 'nowrap',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
          }}
        >
          {text}
        </Box>
        <Track
          label={of ? `${of} ${text}` : text}
          position={position}
          origin={origin}
          carried={range}
          valueText={formatValue(row, value)}
          onMove={(next) => {
            set(round(fromPosition(row, next)));
          }}
          onStep={step}
          onReset={() => {
            set(row.default);
          }}
        />
        <ValueField row={row} label={of ? `${of} ${text}` : text} value={value} a4Hz={a4Hz} onChange={set} />
        {(linkRoom || links.length > 0) && (
          <Box sx={{ width: 42, flex: 'none' }}>
            {links.length > 0 && (
              <Link
                component="button"
                onClick={openLinks}
                sx={{
                  fontSize: TYPE.note,
                  fontFamily: 'inherit',
                  verticalAlign: 'baseline',
                  minHeight: 24,
                  minWidth: 24,
                  whiteSpace: 'nowrap',
                  color: sea.tint5,
                  textDecorationColor: sea.tint4,
                }}
              >
                {links.length} {links.length === 1 ? 'link' : 'links'}
              </Link>
            )}
          </Box>
        )}
      </Box>
    </Tooltip>
  );
}, same);
