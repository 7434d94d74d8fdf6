import { formatValue, parameter, type MoverOf } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { memo } from 'react';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { ToggleTitle } from '../../../controls/ToggleTitle';
import { edit, presentSound } from '../../../state/document-store';
import { MoverFrame, MoverRows } from './MoverFrame';
import { ShapeDrawing } from './ShapeDrawing';
import { TYPE } from '../../../theme/type';
import type { MoverView } from './mover-view';

type Wobble = MoverOf<'wobble'>;

const ROW = { beats: parameter('movers.*.wobble.rateBeats'), hertz: parameter('movers.*.wobble.rateHz') };

const RATES = [
  ['1/1', 4],
  ['1/2', 2],
  ['1/4', 1],
  ['1/4T', 2 / 3],
  ['1/8.', 0.75],
  ['1/8', 0.5],
  ['1/8T', 1 / 3],
  ['1/16', 0.25],
] as const;

/** Changes a wobble as one edit, or as one of a group. */
function change(index: number, what: string, recipe: (draft: Wobble) => void, group: string | null = null) {
  edit(
    `${presentSound().movers[index].name} · ${what}`,
    (draft) => {
      recipe(draft.movers[index] as Wobble);
    },
    group,
  );
}

/** A wobble: its cycle drawn by hand, its rate, and when it starts anew. */
function WobblePanel({ index, mover }: { readonly index: number; readonly mover: Wobble }) {
  const { name, rateIn, rateBeats, restart, byNote, keepsBeat } = mover;
  return (
    <MoverFrame
      index={index}
      mover={mover}
      aside={<Starts index={index} rateIn={rateIn} restart={restart} />}
    >
      <ShapeDrawing
        of={name}
        nodes={mover.nodes}
        onChange={(nodes, group) => {
          change(
            index,
            'shape',
            (draft) => {
              draft.nodes = [...nodes];
            },
            group && `${mover.id} ${group}`,
          );
        }}
      />
      <Settings
        index={index}
        name={name}
        rateIn={rateIn}
        rateBeats={rateBeats}
        byNote={byNote}
        keepsBeat={keepsBeat}
      />
    </MoverFrame>
  );
}

/** In what its rate is told, and what starts it. */
const Starts = memo(function Starts({
  index,
  rateIn,
  restart,
}: Pick<Wobble, 'rateIn' | 'restart'> & { readonly index: number }) {
  return (
    <>
      <Choice
        label="Rate in"
        options={['beats', 'hertz'] as const}
        value={rateIn}
        onChange={(to) => {
          change(index, 'rate in', (draft) => {
            draft.rateIn = to;
          });
        }}
      />
      <Choice
        label="Starts"
        options={[
          { value: 'note', label: 'with each note' },
          { value: 'kick', label: 'with each kick' },
          { value: 'free', label: 'free' },
        ]}
        value={restart}
        onChange={(to) => {
          change(index, 'starts', (draft) => {
            draft.restart = to;
          });
        }}
      />
    </>
  );
});

/** What stands under the drawing: drawn anew only when one of these changes, not with each move of a node. */
const Settings = memo(function Settings({
  index,
  name,
  rateIn,
  rateBeats,
  byNote,
  keepsBeat,
}: Pick<Wobble, 'name' | 'rateIn' | 'rateBeats' | 'byNote' | 'keepsBeat'> & { readonly index: number }) {
  return (
    <>
      <MoverRows>
        <ParameterRow
          path={['movers', index, rateIn === 'beats' ? 'rateBeats' : 'rateHz']}
          of={name}
          labelWidth={70}
        />
        {(['startDeg', 'smoothMs', 'fadeMs', 'swingPct', 'amountPct'] as const).map((field) => (
          <ParameterRow key={field} path={['movers', index, field]} of={name} labelWidth={70} />
        ))}
      </MoverRows>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '3px', alignItems: 'center', mt: '2px' }}>
        {rateIn === 'beats' &&
          RATES.map(([text, beats]) => (
            <Button
              key={text}
              variant={Math.abs(rateBeats - beats) < 1e-6 ? 'contained' : 'text'}
              sx={{ p: '0 5px', fontSize: TYPE.note, fontWeight: 400 }}
              onClick={() => {
                change(index, 'rate', (draft) => {
                  draft.rateBeats = beats;
                });
              }}
            >
              {text}
            </Button>
          ))}
        <Box sx={{ flex: 1 }} />
        <ToggleTitle
          label="takes a note’s own rate"
          on={byNote}
          onToggle={() => {
            change(index, 'note rates', (draft) => {
              draft.byNote = !byNote;
            });
          }}
        />
        {rateIn === 'beats' && (
          <ToggleTitle
            label="keeps to the beat when moved"
            on={keepsBeat}
            onToggle={() => {
              change(index, 'keeps to the beat', (draft) => {
                draft.keepsBeat = !keepsBeat;
              });
            }}
          />
        )}
      </Box>
    </>
  );
});

const STARTS = { note: 'by note', kick: 'by kick', free: 'free' } as const;

export const wobble: MoverView<'wobble'> = {
  name: 'Wobble',
  help: 'A cycle drawn by hand that goes round at a rate.',
  Panel: WobblePanel,
  summary: ({ rateIn, rateBeats, rateHz, restart }) =>
    `${formatValue(ROW[rateIn], rateIn === 'beats' ? rateBeats : rateHz)}, ${STARTS[restart]}`,
  outlinesNotes: true,
};
