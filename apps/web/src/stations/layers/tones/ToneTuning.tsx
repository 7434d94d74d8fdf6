import type { Tone } from '@abyssal/core';
import { ToggleButton } from '@mui/material';
import { memo } from 'react';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { Row } from '../../../controls/Row';
import { edit, useSound } from '../../../state/document-store';
import type { ToneProps } from './use-tone';

/** How a tone is tuned, how loud it is heard by itself, and where in its cycle it starts. */
export const ToneTuning = memo(function ToneTuning({ index, tone: t }: ToneProps) {
  const of = useSound(({ layers }) => `${layers[index].name} tone ${t + 1}`);
  const pitchIn = useSound(({ layers }) => layers[index].tones[t].pitchIn);
  const semitones = useSound(({ layers }) => layers[index].tones[t].semitones);
  const startPhase = useSound(({ layers }) => layers[index].tones[t].startPhase);
  const at = ['layers', index, 'tones', t] as const;
  const change = (what: string, recipe: (tone: Tone) => void) => {
    edit(`${of} · ${what}`, (draft) => {
      recipe(draft.layers[index].tones[t]);
    });
  };
  return (
    <>
      <Row label="Pitch">
        <Choice
          label="Pitch in"
          options={[
            { value: 'note', label: 'note' },
            { value: 'hertz', label: 'Hz' },
          ]}
          value={pitchIn}
          onChange={(next) => {
            change('pitch', (draft) => {
              draft.pitchIn = next;
            });
          }}
        />
        <ToggleButton
          size="small"
          value="fifth"
          onClick={() => {
            change('a fifth up', (draft) => {
              draft.semitones = draft.semitones === 7 ? 0 : 7;
            });
          }}
          selected={semitones === 7}
        >
          fifth
        </ToggleButton>
        <ToggleButton
          size="small"
          value="down"
          sx={{ whiteSpace: 'nowrap' }}
          onClick={() => {
            change('an octave down', (draft) => {
              draft.octave = Math.max(-4, draft.octave - 1);
            });
          }}
        >
          octave down
        </ToggleButton>
      </Row>
      {pitchIn === 'hertz' ? (
        <ParameterRow path={[...at, 'fixedHz']} of={of} />
      ) : (
        <>
          <ParameterRow path={[...at, 'octave']} of={of} />
          <ParameterRow path={[...at, 'semitones']} of={of} />
          <ParameterRow path={[...at, 'cents']} of={of} />
        </>
      )}
      <ParameterRow path={[...at, 'levelDb']} of={of} label="Level" />
      <ParameterRow path={[...at, 'panPct']} of={of} label="Pan" />
      <ParameterRow path={[...at, 'startPhaseDeg']} of={of} disabled={startPhase === 'free'} />
      <Row label="Phase">
        <Choice
          label="Phase"
          options={[
            { value: 'locked', label: 'locked to each note' },
            { value: 'free', label: 'runs free' },
          ]}
          value={startPhase}
          onChange={(next) => {
            change('phase', (draft) => {
              draft.startPhase = next;
            });
          }}
        />
      </Row>
    </>
  );
});
