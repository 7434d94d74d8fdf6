import { plain } from '@abyssal/core';
import { Box } from '@mui/material';
import { Choice } from '../../../controls/Choice';
import { Row } from '../../../controls/Row';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { SourceRows } from './SourceRows';
import { useTone, type ToneProps } from './use-tone';

const SLOPES = { white: 0, pink: -3.01, brown: -6.02 } as const;

/** Noise of a colour; in tune through a resonant filter that follows the keys. */
export function NoiseEditor(props: ToneProps) {
  const { source, change } = useTone<'noise'>(props);
  const slope = SLOPES[source.colour] + source.tiltDb;
  const rise = Math.max(-36, Math.min(36, slope * 5));
  return (
    <>
      <Row label="Noise">
        <Choice
          label="Colour of the noise"
          options={['white', 'pink', 'brown']}
          value={source.colour}
          onChange={(colour) => {
            change('colour', (draft) => {
              draft.colour = colour;
            });
          }}
        />
      </Row>
      <Box
        component="svg"
        viewBox="0 0 240 88"
        preserveAspectRatio="none"
        width="100%"
        height={88}
        role="img"
        aria-label={`Level over depth: ${slope.toFixed(1)} dB an octave`}
        sx={{ bgcolor: sea.tint1, display: 'block', m: '4px 0' }}
      >
        <path d={`M0 ${44 + rise}L240 ${44 - rise}L240 88L0 88Z`} fill={sea.tint3} />
        <path
          d={`M0 ${44 + rise}L240 ${44 - rise}`}
          stroke={sea.tint6}
          strokeWidth={1.6}
          vectorEffect="non-scaling-stroke"
        />
      </Box>
      <SourceRows {...props} />
      <Box sx={{ fontSize: TYPE.note, color: sea.ink2 }}>
        {plain(slope)} dB an octave. To play it in tune, let a filter of high resonance follow the keys by 100
        %.
      </Box>
    </>
  );
}
