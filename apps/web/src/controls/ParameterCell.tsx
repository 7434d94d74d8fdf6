import { clampValue, formatValue, parameter } from '@abyssal/core';
import { Box, Tooltip } from '@mui/material';
import { memo } from 'react';
import { edit, useSound } from '../state/document-store';
import { useCarried } from '../state/moving';
import { linkTarget, rowId, setAt, valueAt, type Path } from '../state/path';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { LinksButton } from './LinksButton';
import { ValueField } from './ValueField';

/**
 * One number of the document where there is no room for a slider: its name over its value. The arrow keys move it, the
 * name opens its links.
 */
export const ParameterCell = memo(
  function ParameterCell({ path, of }: { readonly path: Path; readonly of: string }) {
    const row = parameter(useSound((sound) => rowId(sound, path)));
    const value = useSound((sound) => valueAt(sound, path)) as number;
    const target = useSound((sound) => linkTarget(sound, path));
    const a4Hz = useSound((sound) => sound.ground.a4Hz);
    const carried = useCarried(target, row, value);
    const set = (next: number) => {
      const kept = clampValue(row, next);
      if (kept !== value)
        edit(
          `${of} · ${row.label.toLowerCase()}`,
          (draft) => {
            setAt(draft, path, kept);
          },
          path.join('.'),
        );
    };
    const moved = carried !== null && (carried.links.length > 0 || carried.lane);
    return (
      <Tooltip
        title={`${row.help} ${formatValue(row, value)}`}
        placement="top"
        describeChild
        disableInteractive
      >
        <Box
          onKeyDown={(event) => {
            const step = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.key];
            if (step === undefined) return;
            event.preventDefault();
            event.stopPropagation();
            set(Number((value + step * row.step * (event.shiftKey ? 1 : 5)).toFixed(4)));
          }}
          sx={{ minWidth: 0 }}
        >
          <Box sx={{ height: 24, fontSize: TYPE.mark, color: moved ? sea.note : sea.ink2 }}>
            {carried ? (
              <LinksButton
                target={target}
                row={row}
                label={`${of} ${row.label}`}
                carried={carried}
                named={row.label}
              />
            ) : (
              row.label
            )}
          </Box>
          <ValueField
            row={row}
            label={`${of} ${row.label}`}
            value={value}
            a4Hz={a4Hz}
            width={58}
            onChange={set}
          />
        </Box>
      </Tooltip>
    );
  },
  (a, b) => a.path.join() === b.path.join() && a.of === b.of,
);
