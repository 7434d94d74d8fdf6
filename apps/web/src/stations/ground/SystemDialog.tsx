import {
  OCTAVES_HZ,
  parameter,
  RESPONSE_THIRDS_HZ,
  responseDb,
  responseOfImpulse,
  type OwnSystem,
} from '@abyssal/core';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { Choice } from '../../controls/Choice';
import { FileButton, WAV_FILES } from '../../controls/FileButton';
import { NameField } from '../../controls/NameField';
import { ParameterRow } from '../../controls/ParameterRow';
import { Row } from '../../controls/Row';
import { ValueField } from '../../controls/ValueField';
import { edit, useSound } from '../../state/document-store';
import { decode } from '../../state/recordings';
import { tell, tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { SystemCurve } from './SystemCurve';

const CHANNELS: readonly OwnSystem['channels'][] = ['stereo', 'mono', 'mono lows'];
const hertz = (hz: number) => (hz >= 1000 ? `${hz / 1000}k` : String(hz));

/** The response at the third-octave centres, where it is typed. */
function thirdsOf({ response }: OwnSystem): number[] {
  const part = {
    kind: 'measured' as const,
    hz: response.map(({ hz }) => hz),
    levelsDb: response.map(({ levelDb }) => levelDb),
  };
  return RESPONSE_THIRDS_HZ.map((hz) => Math.round(10 * responseDb([part], hz)) / 10);
}

/** A system of the user's own: its response by thirds or from an impulse response, its channels, levels and room. */
export function SystemDialog({ index, onClose }: { readonly index: number; readonly onClose: () => void }) {
  const system = useSound((sound) => sound.systems.own[index]);
  const change = (what: string, recipe: (draft: OwnSystem) => void, key?: string) => {
    edit(
      `${system.name} · ${what}`,
      (draft) => {
        recipe(draft.systems.own[index]);
      },
      key,
    );
  };
  const readImpulse = async (file: File) => {
    const { channels, sampleRateHz } = await decode(await file.arrayBuffer());
    const response = responseOfImpulse(channels, sampleRateHz);
    change('impulse response', (draft) => {
      draft.response = response;
    });
    tell(`The response of ${file.name} is read by twelfths of an octave; its echoes are no part of it.`);
  };
  const thirds = thirdsOf(system);
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="system-title">
      <DialogTitle id="system-title">
        <NameField
          label="Name of the system"
          value={system.name}
          width={320}
          onChange={(name) => {
            change('name', (draft) => {
              draft.name = name;
            });
          }}
        />
      </DialogTitle>
      <DialogContent dividers>
        <SystemCurve system={system} />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '4px 24px', mt: '8px' }}>
          <Row label="Channels">
            <Choice
              label="Channels"
              options={CHANNELS.map((value) => ({ value, label: value }))}
              value={system.channels}
              onChange={(channels) => {
                change('channels', (draft) => {
                  draft.channels = channels;
                });
              }}
            />
          </Row>
          <Box>
            <FileButton
              size="small"
              label="Impulse response"
              accept={WAV_FILES}
              onFiles={([file]) => {
                readImpulse(file).catch(tellError);
              }}
            >
              Read an impulse response (WAV)
            </FileButton>
          </Box>
          <ParameterRow path={['systems', 'own', index, 'playsDb']} of={system.name} linkRoom={false} />
          <ParameterRow path={['systems', 'own', index, 'mostDb']} of={system.name} linkRoom={false} />
        </Box>
        <Fields
          title="Response, dB by thirds of an octave"
          label={(hz) => `Response at ${hertz(hz)}`}
          hzs={RESPONSE_THIRDS_HZ}
          values={thirds}
          row="systems.own.*.response.*.levelDb"
          onChange={(i, value) => {
            change('response', (draft) => {
              draft.response = RESPONSE_THIRDS_HZ.map((hz, k) => ({
                hz,
                levelDb: k === i ? value : thirds[k],
              }));
            });
          }}
        />
        <Fields
          title="Room noise, dB SPL by octaves"
          label={(hz) => `Room noise at ${hertz(hz)}`}
          hzs={OCTAVES_HZ}
          values={system.noiseDb}
          row="systems.own.*.noiseDb.*"
          onChange={(i, value) => {
            change('room noise', (draft) => {
              draft.noiseDb[i] = value;
            });
          }}
        />
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

interface FieldsProps {
  readonly title: string;
  readonly label: (hz: number) => string;
  readonly hzs: readonly number[];
  readonly values: readonly number[];
  readonly row: string;
  readonly onChange: (index: number, value: number) => void;
}

/** A field a frequency. */
function Fields({ title, label, hzs, values, row, onChange }: FieldsProps) {
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: '10px 0 0' }}>
      <Box component="legend" sx={{ fontSize: TYPE.label, fontWeight: 500 }}>
        {title}
      </Box>
      <Box
        sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(60px, 1fr))', gap: '2px 8px' }}
      >
        {hzs.map((hz, i) => (
          <Box key={hz} sx={{ fontSize: TYPE.note, color: sea.ink2 }}>
            {hertz(hz)}
            <Box>
              <ValueField
                bare
                row={parameter(row)}
                label={label(hz)}
                value={values[i]}
                a4Hz={440}
                width={54}
                onChange={(value) => {
                  onChange(i, value);
                }}
              />
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
