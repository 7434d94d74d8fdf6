import type { Acts, ToneKind } from '@abyssal/core';
import { Box } from '@mui/material';
import { memo } from 'react';
import { Choice } from '../../controls/Choice';
import { ToldText } from '../../controls/Mark';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { ListChoice } from '../../controls/ListChoice';
import { edit, useSound } from '../../state/document-store';

const WAYS: readonly { readonly value: Acts['two']['way']; readonly label: string }[] = [
  { value: 'add', label: 'add' },
  { value: 'ring', label: 'ring' },
  { value: 'fm', label: 'FM' },
  { value: 'steer', label: 'steer' },
  { value: 'sync', label: 'sync' },
  { value: 'and', label: 'and' },
  { value: 'or', label: 'or' },
  { value: 'xor', label: 'xor' },
  { value: 'compare', label: 'compare' },
];
const CYCLES: readonly ToneKind[] = ['shape', 'harmonics', 'frames'];
const NEEDS_CYCLE = ['fm', 'steer', 'sync'];

/** How the tones of a layer act on each other. */
export const ActsPanel = memo(function ActsPanel({ index }: { readonly index: number }) {
  const name = useSound((sound) => sound.layers[index].name);
  const acts = useSound((sound) => sound.layers[index].acts);
  // Whether each tone is on and what it is: nothing else of the tones is shown here.
  const on = useSound((sound) => sound.layers[index].tones.map((tone) => (tone.on ? '1' : '0')).join(''));
  const kinds = useSound((sound) => sound.layers[index].tones.map(({ source }) => source.kind).join());
  const { two, three } = acts;
  const change = (what: string, recipe: (acts: Acts) => void) => {
    edit(`${name} · ${what}`, (draft) => {
      recipe(draft.layers[index].acts);
    });
  };
  const row = (field: readonly string[], label: string) => (
    <ParameterRow path={['layers', index, 'acts', ...field]} of={name} label={label} />
  );
  const lost = (way: string, target: number) =>
    NEEDS_CYCLE.includes(way) && !CYCLES.includes(kinds.split(',')[target] as ToneKind);
  const alternates = three.way === 'alternate';
  return (
    <Panel
      title="Tones on each other"
      label="Tones on each other"
      aside={on.slice(1) === '00' ? 'needs tone 2 or 3' : undefined}
    >
      {on[1] === '1' && (
        <>
          <Box sx={{ '& .MuiToggleButton-root': { px: '5px' } }}>
            <Choice
              label="Tone 2 on tone 1"
              options={WAYS}
              value={two.way}
              onChange={(way) => {
                change('tone 2 on 1', (draft) => {
                  draft.two.way = way;
                });
              }}
            />
          </Box>
          {two.way !== 'add' && row(['two', 'amountPct'], '2 on 1')}
          {(two.way === 'steer' || two.way === 'fm') && row(['backPct'], '1 back on 2')}
          {lost(two.way, 0) && (
            <ToldText>Tone 1 has no cycle to steer: choose Shape, Harmonics or Frames for it.</ToldText>
          )}
        </>
      )}
      {on[2] === '1' && (
        <>
          <Box
            sx={{
              display: 'flex',
              gap: '4px',
              flexWrap: 'wrap',
              mt: '4px',
              '& .MuiToggleButton-root': { px: '5px' },
            }}
          >
            <Choice
              label="Tone 3 on"
              options={[
                { value: '2', label: '3 on 2' },
                { value: '1', label: '3 on 1' },
              ]}
              value={three.on}
              disabled={alternates}
              onChange={(on) => {
                change('tone 3 on', (draft) => {
                  draft.three.on = on;
                });
              }}
            />
            <ListChoice
              label="Tone 3’s way"
              value={three.way}
              options={[...WAYS, { value: 'alternate', label: 'alternate 1 and 2' }]}
              onChange={(way) => {
                change('tone 3', (draft) => {
                  draft.three.way = way;
                });
              }}
            />
          </Box>
          {three.way !== 'add' && row(['three', 'amountPct'], alternates ? 'alternate' : `3 on ${three.on}`)}
          {alternates && row(['widthPct'], 'width')}
          {alternates && row(['smoothPct'], 'smoothing')}
          {lost(three.way, Number(three.on) - 1) && (
            <ToldText>
              Tone {three.on} has no cycle to steer: choose Shape, Harmonics or Frames for it.
            </ToldText>
          )}
        </>
      )}
    </Panel>
  );
});
