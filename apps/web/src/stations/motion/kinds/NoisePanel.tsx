import { formatValue, parameter, type MoverOf } from '@abyssal/core';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { edit } from '../../../state/document-store';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { Box } from '@mui/material';
import { MoverFrame } from './MoverFrame';
import type { MoverView } from './mover-view';

type Noise = MoverOf<'noise'>;

const RATE = parameter('movers.*.noise.rateHz');

/** Chance as a mover: slow, or so fast that it is heard. */
function NoisePanel({ index, mover }: { readonly index: number; readonly mover: Noise }) {
  const change = (label: string, recipe: (draft: Noise) => void) => {
    edit(`${mover.name} · ${label}`, (draft) => {
      recipe(draft.movers[index] as Noise);
    });
  };
  return (
    <MoverFrame
      index={index}
      mover={mover}
      aside={
        <>
          <Choice
            label="Colour"
            options={['white', 'pink'] as const}
            value={mover.colour}
            onChange={(colour) => {
              change('colour', (draft) => {
                draft.colour = colour;
              });
            }}
          />
          <Choice
            label="Goes"
            options={[
              { value: 'smooth', label: 'smooth' },
              { value: 'stepped', label: 'stepped' },
            ]}
            value={mover.smooth ? 'smooth' : 'stepped'}
            onChange={(goes) => {
              change(goes, (draft) => {
                draft.smooth = goes === 'smooth';
              });
            }}
          />
        </>
      }
    >
      <ParameterRow path={['movers', index, 'rateHz']} of={mover.name} labelWidth={70} />
      <Box sx={{ fontSize: TYPE.control, color: sea.ink2, mt: '4px' }}>
        From some hundred hertz on it roughens what it moves: a little on a cutoff or a drive goes far.
      </Box>
    </MoverFrame>
  );
}

export const noise: MoverView<'noise'> = {
  name: 'Noise',
  help: 'Chance, slow or up to the audible.',
  Panel: NoisePanel,
  summary: ({ rateHz, colour }) => `${colour}, ${formatValue(RATE, rateHz)}`,
  outlinesNotes: false,
};
