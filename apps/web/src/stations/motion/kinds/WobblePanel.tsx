import { formatValue, parameter, type MoverOf } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { ToggleTitle } from '../../../controls/ToggleTitle';
import { edit } from '../../../state/document-store';
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

/** A wobble: its cycle drawn by hand, its rate, and when it starts anew. */
function WobblePanel({ index, mover }: { readonly index: number; readonly mover: Wobble }) {
  const change = (label: string, recipe: (draft: Wobble) => void, group: string | null = null) => {
    edit(
      `${mover.name} · ${label}`,
      (draft) => {
        recipe(draft.movers[index] as Wobble);
      },
      group,
    );
  };
  return (
    <MoverFrame
      index={index}
      mover={mover}
      aside={
        <>
          <Choice
            label="Rate in"
            options={['beats', 'hertz'] as const}
            value={mover.rateIn}
            onChange={(rateIn) => {
              change('rate in', (draft) => {
                draft.rateIn = rateIn;
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
            value={mover.restart}
            onChange={(restart) => {
              change('starts', (draft) => {
                draft.restart = restart;
              });
            }}
          />
        </>
      }
    >
      <ShapeDrawing
        of={mover.name}
        nodes={mover.nodes}
        onChange={(nodes, group) => {
          change(
            'shape',
            (draft) => {
              draft.nodes = [...nodes];
            },
            group && `${mover.id} ${group}`,
          );
        }}
      />
      <MoverRows>
        <ParameterRow
          path={['movers', index, mover.rateIn === 'beats' ? 'rateBeats' : 'rateHz']}
          of={mover.name}
          labelWidth={70}
        />
        {(['startDeg', 'smoothMs', 'fadeMs', 'swingPct', 'amountPct'] as const).map((field) => (
          <ParameterRow key={field} path={['movers', index, field]} of={mover.name} labelWidth={70} />
        ))}
      </MoverRows>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '3px', alignItems: 'center', mt: '2px' }}>
        {mover.rateIn === 'beats' &&
          RATES.map(([text, beats]) => (
            <Button
              key={text}
              variant={Math.abs(mover.rateBeats - beats) < 1e-6 ? 'contained' : 'text'}
              sx={{ p: '0 5px', fontSize: TYPE.note, fontWeight: 400 }}
              onClick={() => {
                change('rate', (draft) => {
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
          on={mover.byNote}
          onToggle={() => {
            change('note rates', (draft) => {
              draft.byNote = !mover.byNote;
            });
          }}
        />
        {mover.rateIn === 'beats' && (
          <ToggleTitle
            label="keeps to the beat when moved"
            on={mover.keepsBeat}
            onToggle={() => {
              change('keeps to the beat', (draft) => {
                draft.keepsBeat = !mover.keepsBeat;
              });
            }}
          />
        )}
      </Box>
    </MoverFrame>
  );
}

const STARTS = { note: 'by note', kick: 'by kick', free: 'free' } as const;

export const wobble: MoverView<'wobble'> = {
  name: 'Wobble',
  help: 'A cycle drawn by hand that goes round at a rate.',
  Panel: WobblePanel,
  summary: ({ rateIn, rateBeats, rateHz, restart }) =>
    `${formatValue(ROW[rateIn], rateIn === 'beats' ? rateBeats : rateHz)}, ${STARTS[restart]}`,
  outlinesNotes: true,
};
