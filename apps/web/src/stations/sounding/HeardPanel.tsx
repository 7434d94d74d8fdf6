import { noteName, type Heard, type PlaybackSystem } from '@abyssal/core';
import { Box, ButtonBase } from '@mui/material';
import { Panel } from '../../controls/Panel';
import { sea } from '../../theme/sea';
import { NUMERALS } from '../../theme/theme';
import { TYPE } from '../../theme/type';
import type { KeyboardEvent } from 'react';
import { heardWords, type HeardCell, type HeardColumn } from './heard-map';

/** How each verdict is drawn: by its word, a tint and a border, never by the tint alone. */
const DRAWN: Readonly<Record<Heard | 'unknown', Readonly<Record<string, string>>>> = {
  felt: { backgroundColor: sea.tint5, color: sea.onInk },
  implied: { backgroundColor: sea.tint2, color: sea.ink },
  lost: { border: `1px dashed ${sea.short}`, color: sea.short },
  unknown: { border: `1px solid ${sea.hair}`, color: sea.ink2 },
};
const WORD: Readonly<Record<Heard | 'unknown', string>> = {
  felt: 'felt',
  implied: 'implied',
  lost: '✕ lost',
  unknown: '–',
};

interface HeardPanelProps {
  readonly columns: readonly HeardColumn[];
  readonly systems: readonly PlaybackSystem[];
  /** Ids of those that do not matter for the sound. */
  readonly leftOut: readonly string[];
  /** The mend with which it is shown; null as it is. */
  readonly with: string | null;
  readonly chosen: HeardCell | null;
  readonly onChoose: (cell: HeardCell) => void;
  /** What stands there while there is nothing to show. */
  readonly empty: string;
}

const placeOf = ({ pitch, system }: HeardCell) => `${system.id} ${pitch}`;

/** Steps that arrow keys take through the table: columns, then rows. */
const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** What a listener gets of every pitch of the line on every system. */
export function HeardPanel({
  columns,
  systems,
  leftOut,
  with: mend,
  chosen,
  onChoose,
  empty,
}: HeardPanelProps) {
  const move = (event: KeyboardEvent<HTMLElement>) => {
    const step = STEPS[event.key];
    if (!step || !chosen) return;
    event.preventDefault();
    const column = columns.findIndex(({ pitch }) => pitch === chosen.pitch) + step[0];
    const row = systems.findIndex(({ id }) => id === chosen.system.id) + step[1];
    const cell = columns.at(column)?.cells.at(row);
    if (column < 0 || row < 0 || !cell) return;
    onChoose(cell);
    event.currentTarget.querySelector<HTMLElement>(`[data-heard="${placeOf(cell)}"]`)?.focus();
  };
  return (
    <Panel
      title="Heard on each system, note by note"
      aside={
        mend === null ? (
          'felt: the fundamental is heard · implied: two neighbouring harmonics are · lost: neither'
        ) : (
          <Box component="span" sx={{ color: sea.note, fontWeight: 500 }}>
            as it would be: {mend}
          </Box>
        )
      }
    >
      {columns.length === 0 ? (
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2, minHeight: 60 }}>{empty}</Box>
      ) : (
        <Box sx={{ overflowX: 'auto' }}>
          <Box
            component="table"
            aria-label="Heard on each system"
            onKeyDown={move}
            sx={{
              width: '100%',
              borderSpacing: '2px',
              fontSize: TYPE.control,
              '& th': { fontWeight: 400, p: 0 },
              '& thead th': { fontFamily: NUMERALS, fontStyle: 'italic', color: sea.ink2, minWidth: 52 },
              '& tbody th': { textAlign: 'left', whiteSpace: 'nowrap', pr: 1, width: 130 },
              '& td': { p: 0 },
            }}
          >
            <thead>
              <tr>
                <td />
                {columns.map(({ pitch }) => (
                  <th key={pitch} scope="col">
                    {noteName(pitch)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {systems.map(({ id, name }, s) => (
                <tr key={id}>
                  <th scope="row">
                    {name}
                    {leftOut.includes(id) && (
                      <Box component="span" sx={{ color: sea.ink2, fontSize: TYPE.note }}>
                        {' '}
                        left out
                      </Box>
                    )}
                  </th>
                  {columns.map(({ pitch, cells }) => {
                    const cell = cells[s];
                    const verdict = cell.listening?.verdict ?? 'unknown';
                    const here = chosen?.pitch === pitch && chosen.system.id === id;
                    return (
                      <td key={pitch}>
                        <ButtonBase
                          aria-pressed={here}
                          aria-label={`${noteName(pitch)} on ${name}: ${verdict === 'unknown' ? 'cannot tell' : verdict}`}
                          data-heard={placeOf(cell)}
                          tabIndex={here ? 0 : -1}
                          onClick={() => {
                            onChoose(cell);
                          }}
                          sx={{
                            width: '100%',
                            height: 26,
                            fontFamily: 'inherit',
                            fontSize: TYPE.control,
                            ...DRAWN[verdict],
                            ...(here ? { outline: `2px solid ${sea.note}`, outlineOffset: '-2px' } : {}),
                          }}
                        >
                          {WORD[verdict]}
                        </ButtonBase>
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </Box>
        </Box>
      )}
      {chosen && (
        <Box role="status" sx={{ mt: '6px', fontSize: TYPE.control, color: sea.ink2 }}>
          {heardWords(chosen)}
        </Box>
      )}
    </Panel>
  );
}
