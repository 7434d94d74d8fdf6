import { cleanWavKick, type MadeKick } from '@abyssal/core';
import { Box } from '@mui/material';
import { useState } from 'react';
import { Choice } from '../../controls/Choice';
import { FileButton, WAV_FILES } from '../../controls/FileButton';
import { ParameterRow } from '../../controls/ParameterRow';
import { Row } from '../../controls/Row';
import { edit, useSound } from '../../state/document-store';
import { takeWav } from '../../state/recordings';
import { tellError } from '../../state/view-store';
import { DropDrawing } from './DropDrawing';
import { TYPE } from '../../theme/type';

type Part = 'body' | 'drop' | 'click';
type Field = keyof MadeKick;

/** The rows of a part of the kick, as it is set. */
function rowsOf(part: Part, made: MadeKick): readonly Field[] {
  if (part === 'body')
    return [
      ...(made.body === 'tone' ? (['squarePct', 'startDeg'] as const) : (['noiseWidthOct'] as const)),
      'holdMs',
      'decayMs',
      'decayBend',
      'lengthMs',
      'driveDb',
    ];
  if (part === 'click') {
    if (made.click === 'none') return [];
    return made.click === 'sample'
      ? ['clickDb', 'clickMs']
      : [
          'clickDb',
          'clickHz',
          'clickWidthOct',
          'clickMs',
          ...(made.click === 'phase' ? (['clickShapePct'] as const) : []),
        ];
  }
  const second = made.settleMs > 0;
  return made.dropBy === 'phase' && made.body === 'tone'
    ? [
        'tailHz',
        'dropCycles',
        'dropMs',
        'dropBend',
        ...(second ? (['kneePct'] as const) : []),
        'settleMs',
        ...(second ? (['settleBend'] as const) : []),
      ]
    : [
        'startHz',
        ...(second ? (['kneeHz'] as const) : []),
        'tailHz',
        'dropMs',
        'dropBend',
        'settleMs',
        ...(second ? (['settleBend'] as const) : []),
      ];
}

/** A short recording for the click. */
function ClickSample({ fileName }: { readonly fileName: string | null }) {
  const [busy, setBusy] = useState(false);
  const take = async (file: File) => {
    setBusy(true);
    try {
      const { asset, fileName: name } = cleanWavKick(await takeWav(file), file.name);
      edit('kick click WAV', (draft) => {
        draft.kick.made.clickWav = { asset, fileName: name };
      });
    } catch (error) {
      tellError(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Row label="Recording">
      <FileButton
        size="small"
        label="Click WAV"
        accept={WAV_FILES}
        disabled={busy}
        onFiles={([file]) => {
          void take(file);
        }}
      >
        {fileName ? 'Another WAV' : 'Take a WAV'}
      </FileButton>
      <Box
        component="span"
        sx={{ fontSize: TYPE.note, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
      >
        {fileName ?? 'none yet: the click is silent'}
      </Box>
    </Row>
  );
}

/** A kick that is made here: body, drop and click. */
export function MadeKickRows() {
  const made = useSound((sound) => sound.kick.made);
  const [part, setPart] = useState<Part>('drop');
  const change = (what: string, recipe: (draft: MadeKick) => void) => {
    edit(`kick · ${what}`, (draft) => {
      recipe(draft.kick.made);
    });
  };
  return (
    <>
      <Box sx={{ display: 'flex', gap: '6px', flexWrap: 'wrap', my: '5px' }}>
        <Choice
          label="Part of the kick"
          options={['body', 'drop', 'click']}
          value={part}
          onChange={setPart}
        />
        {part === 'body' && (
          <Choice
            label="Kick body"
            options={[
              { value: 'tone', label: 'tone' },
              { value: 'noise', label: 'resonant noise' },
            ]}
            value={made.body}
            onChange={(body) => {
              change('body', (draft) => {
                draft.body = body;
              });
            }}
          />
        )}
        {part === 'drop' && made.body === 'tone' && (
          <Choice
            label="Drop goes"
            options={[
              { value: 'frequency', label: 'by frequency' },
              { value: 'phase', label: 'by phase' },
            ]}
            value={made.dropBy}
            onChange={(dropBy) => {
              change('drop', (draft) => {
                draft.dropBy = dropBy;
              });
            }}
          />
        )}
        {part === 'click' && (
          <Choice
            label="Click is"
            options={[
              { value: 'noise', label: 'noise' },
              { value: 'phase', label: 'on the phase' },
              { value: 'sample', label: 'sample' },
              { value: 'none', label: 'none' },
            ]}
            value={made.click}
            onChange={(click) => {
              change('click', (draft) => {
                draft.click = click;
              });
            }}
          />
        )}
        {part === 'click' && made.click === 'phase' && (
          <Choice
            label="Click shape"
            options={['skew', 'fold']}
            value={made.clickShape}
            onChange={(clickShape) => {
              change('click shape', (draft) => {
                draft.clickShape = clickShape;
              });
            }}
          />
        )}
      </Box>
      {part === 'drop' && <DropDrawing made={made} />}
      {rowsOf(part, made).map((field) => (
        <ParameterRow key={field} path={['kick', 'made', field]} of="Kick" />
      ))}
      {part === 'click' && made.click === 'sample' && (
        <ClickSample fileName={made.clickWav?.fileName ?? null} />
      )}
    </>
  );
}
