import { formatValue, parameter, type MoverOf } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { Panel } from '../../../controls/Panel';
import { ToggleTitle } from '../../../controls/ToggleTitle';
import { edit } from '../../../state/document-store';
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
    <Panel
      label={mover.name}
      title={
        <ToggleTitle
          label={mover.name}
          on={mover.on}
          onToggle={() => {
            change('on', (draft) => {
              draft.on = !mover.on;
            });
          }}
        />
      }
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
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fit, minmax(220px, 1fr))',
          columnGap: 2,
          mt: '6px',
        }}
      >
        <ParameterRow
          path={['movers', index, mover.rateIn === 'beats' ? 'rateBeats' : 'rateHz']}
          of={mover.name}
          labelWidth={80}
          linkRoom={false}
        />
        <ParameterRow path={['movers', index, 'startDeg']} of={mover.name} labelWidth={80} linkRoom={false} />
        <ParameterRow path={['movers', index, 'smoothMs']} of={mover.name} labelWidth={80} linkRoom={false} />
        {mover.rateIn === 'beats' && (
          <Box
            sx={{ display: 'flex', flexWrap: 'wrap', gap: '3px', alignItems: 'center', gridColumn: '1 / -1' }}
          >
            {RATES.map(([text, beats]) => (
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
          </Box>
        )}
      </Box>
    </Panel>
  );
}

export const wobble: MoverView<'wobble'> = {
  Panel: WobblePanel,
  summary: ({ rateIn, rateBeats, rateHz, restart }) =>
    `${formatValue(ROW[rateIn], rateIn === 'beats' ? rateBeats : rateHz)}, ${restart === 'note' ? 'by note' : 'free'}`,
  outlinesNotes: true,
};
