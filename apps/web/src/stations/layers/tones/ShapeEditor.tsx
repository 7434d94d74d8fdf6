import { seriesOf } from '@abyssal/core';
import { Box } from '@mui/material';
import { useMemo } from 'react';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { useDocument } from '../../../state/document-store';
import { CyclePicture } from './CyclePicture';
import { useTone, type ToneProps } from './use-tone';

const SHAPES = ['sine', 'triangle', 'saw', 'square', 'pulse'] as const;

/** A classic wave. */
export function ShapeEditor(props: ToneProps) {
  const { source, of, at, change } = useTone<'shape'>(props);
  const { startPhase, startPhaseDeg } = useDocument().layers[props.index].tones[props.tone];
  const harmonic = useMemo(
    () => seriesOf(source.shape, source.widthPct / 100),
    [source.shape, source.widthPct],
  );
  return (
    <>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', mb: '6px' }}>
        <Choice
          label="Shape"
          options={SHAPES}
          value={source.shape}
          onChange={(shape) => {
            change('shape', (draft) => {
              draft.shape = shape;
            });
          }}
        />
      </Box>
      <CyclePicture
        harmonic={harmonic}
        startDeg={startPhase === 'locked' ? startPhaseDeg : 0}
        label={`One cycle of a ${source.shape}, from its start phase`}
        height={88}
      />
      {source.shape === 'pulse' && (
        <Box sx={{ mt: '4px' }}>
          <ParameterRow path={[...at, 'widthPct']} of={of} />
        </Box>
      )}
    </>
  );
}
