import { actingTones, canCopy, MOST_COPIES, type Tone } from '@abyssal/core';
import { Box } from '@mui/material';
import { memo } from 'react';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { Row } from '../../../controls/Row';
import { edit, useSound } from '../../../state/document-store';
import type { ToneProps } from './use-tone';

const LAWS = ['even', 'inward', 'outward', 'scattered'] as const;

/**
 * The copies of a tone: how many, how far apart in pitch and place, how they stray, and where each starts.
 */
export const ToneCopies = memo(function ToneCopies({ index, tone: t }: ToneProps) {
  const of = useSound(({ layers }) => `${layers[index].name} tone ${t + 1}`);
  const copied = useSound(({ layers }) => canCopy(layers[index].tones[t]));
  const acting = useSound(({ layers }) => actingTones(layers[index])[t]);
  const copies = useSound(({ layers }) => layers[index].tones[t].copies);
  const drifts = useSound(({ layers }) => layers[index].tones[t].driftCents > 0);
  const law = useSound(({ layers }) => layers[index].tones[t].detuneLaw);
  const phases = useSound(({ layers }) => layers[index].tones[t].copyPhase);
  const at = ['layers', index, 'tones', t] as const;
  const change = (what: string, recipe: (tone: Tone) => void) => {
    edit(`${of} · ${what}`, (draft) => {
      recipe(draft.layers[index].tones[t]);
    });
  };
  return (
    <>
      <ParameterRow path={[...at, 'copies']} of={of} disabled={!copied} />
      <ParameterRow path={[...at, 'detuneCents']} of={of} disabled={!copied || copies === 1} />
      <ParameterRow path={[...at, 'spreadPct']} of={of} disabled={!copied || copies === 1 || acting} />
      <ParameterRow path={[...at, 'driftCents']} of={of} />
      <ParameterRow path={[...at, 'driftHz']} of={of} disabled={!drifts} />
      <Row label="Spacing" disabled={!copied}>
        <Choice
          label="Spacing of the copies"
          options={LAWS}
          value={law}
          onChange={(next) => {
            change('detune law', (draft) => {
              draft.detuneLaw = next;
            });
          }}
        />
      </Row>
      <Row label="Phases" disabled={!copied}>
        <Choice
          label="Phases of the copies"
          options={['scattered', 'together', 'own']}
          value={phases}
          onChange={(next) => {
            change('phases of the copies', (draft) => {
              draft.copyPhase = next;
              if (next === 'own')
                draft.copyPhasesDeg = Array.from(
                  { length: MOST_COPIES },
                  (_, c) => draft.copyPhasesDeg[c] ?? Math.round(((c * 0.618034) % 1) * 360),
                );
            });
          }}
        />
      </Row>
      {phases === 'own' && (
        <Box sx={{ maxHeight: 75, overflowY: 'auto' }}>
          {Array.from({ length: copies }, (_, c) => (
            <ParameterRow key={c} path={[...at, 'copyPhasesDeg', c]} of={of} label={`Copy ${c + 1}`} />
          ))}
        </Box>
      )}
    </>
  );
});
