import { clampValue, formatValue, fromPosition, parameter, toPosition } from '@abyssal/core';
import { Box, Tooltip } from '@mui/material';
import { memo } from 'react';
import { edit, useSound } from '../state/document-store';
import { useCarried } from '../state/moving';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { idleRow } from './idle-row';
import { LinksButton } from './LinksButton';
import { linkTarget, rowId, setAt, valueAt, type Path } from '../state/path';
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
  /** Whether the word for its links is left out altogether. */
  readonly bare?: boolean;
  /** Whether its value is shown and typed elsewhere. */
  readonly valueless?: boolean;
}

/** Rows get a new path at each render of what they stand in: they are the same while its parts are. */
const same = (a: ParameterRowProps, b: ParameterRowProps) =>
  a.path.join() === b.path.join() &&
  a.label === b.label &&
  a.labelWidth === b.labelWidth &&
  a.of === b.of &&
  a.disabled === b.disabled &&
  a.linkRoom === b.linkRoom &&
  a.bare === b.bare &&
  a.valueless === b.valueless;

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
  bare = false,
  valueless = false,
}: ParameterRowProps) {
  const row = parameter(useSound((sound) => rowId(sound, path)));
  const value = useSound((sound) => valueAt(sound, path)) as number;
  const target = useSound((sound) => linkTarget(sound, path));
  const a4Hz = useSound((sound) => sound.ground.a4Hz);
  const text = label ?? row.label;
  const position = toPosition(row, value);
  const carried = useCarried(target, row, value);
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
  const linked = carried !== null && (carried.links.length > 0 || carried.lane);
  const name = of ? `${of} ${text}` : text;
  const origin = row.min < 0 && row.max > 0 && row.scale === 'linear' ? toPosition(row, 0) : 0;
  return (
    <Tooltip title={row.help} placement="top-start" describeChild disableInteractive>
      <Box
        {...(disabled && idleRow(name))}
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 1,
          height: 26,
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
          {carried && !bare && !linkRoom && !linked ? (
            <LinksButton target={target} row={row} label={name} carried={carried} named={text} />
          ) : (
            text
          )}
        </Box>
        <Track
          label={name}
          position={position}
          origin={origin}
          carried={carried?.range}
          live={carried?.range ? target : null}
          valueText={formatValue(row, value)}
          onMove={(next) => {
            set(round(fromPosition(row, next)));
          }}
          onStep={step}
          onReset={() => {
            set(row.default);
          }}
        />
        {!valueless && <ValueField row={row} label={name} value={value} a4Hz={a4Hz} onChange={set} />}
        {carried && !bare && (linkRoom || linked) && (
          <LinksButton target={target} row={row} label={name} carried={carried} />
        )}
        {!carried && linkRoom && !bare && <Box sx={{ width: 42, flex: 'none' }} />}
      </Box>
    </Tooltip>
  );
}, same);
