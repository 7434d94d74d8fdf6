import { cleanWavKick, findKickProblems, type Kick, plainText } from '@abyssal/core';
import { Box, Button, LinearProgress } from '@mui/material';
import { useRef, useState, type DragEvent } from 'react';
import { Choice } from '../../controls/Choice';
import { FileInput, WAV_FILES } from '../../controls/FileButton';
import { ParameterRow } from '../../controls/ParameterRow';
import { Row } from '../../controls/Row';
import { Panel } from '../../controls/Panel';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { KeptPartsDialog } from '../../parts/KeptPartsDialog';
import { fetchPartAs, keepInLibrary } from '../../parts/kept-parts';
import { edit, useSound } from '../../state/document-store';
import { recording, takeWav } from '../../state/recordings';
import { tell, tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { KickWave } from './KickWave';
import { MadeKickRows } from './MadeKickRows';
import { WaveTrim } from './WaveTrim';

const WAV = ['gainDb', 'startMs', 'endMs', 'fadeMs', 'retuneSt', 'shiftMs'] as const;

/** The kick: made here, or a WAV that is dropped on it. */
export function KickPanel() {
  const kick = useSound((sound) => sound.kick);
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [fetching, setFetching] = useState(false);
  const picker = useRef<HTMLInputElement>(null);

  const take = async (file: File | undefined) => {
    if (!file) return;
    setProblem(null);
    setBusy(true);
    try {
      const asset = await takeWav(file);
      const { channels, sampleRateHz } = await recording(asset);
      const lengthMs = Number(((1000 * channels[0].length) / sampleRateHz).toFixed(1));
      edit('kick WAV', (draft) => {
        draft.kick.source = 'wav';
        draft.kick.name = plainText(file.name.replace(/\.wave?$/i, ''), 80);
        // Its end is where the recording ends, not as far as a trim may reach.
        const wav = cleanWavKick(asset, file.name);
        draft.kick.wav = { ...wav, endMs: Math.min(wav.endMs, Math.max(1, lengthMs)) };
      });
    } catch (error) {
      const sentence = error instanceof Error ? error.message : String(error);
      setProblem(`${file.name}: ${sentence}${sentence.endsWith('.') ? '' : '.'} The kick stays as it was.`);
    } finally {
      setBusy(false);
    }
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void take(event.dataTransfer.files[0]);
  };
  return (
    <Box
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => {
        setOver(false);
      }}
      onDrop={onDrop}
      sx={{ outline: over ? `2px dashed ${sea.note}` : 'none', outlineOffset: 2 }}
    >
      <Panel
        label="Kick"
        title={
          <ToggleTitle
            label="Kick"
            on={kick.on}
            onToggle={() => {
              edit('kick', (draft) => {
                draft.kick.on = !kick.on;
              });
            }}
          />
        }
        aside={
          <Choice
            label="Kick source"
            options={[
              { value: 'made', label: 'synth' },
              { value: 'wav', label: 'WAV' },
            ]}
            value={kick.source}
            onChange={(source) => {
              if (source === 'wav' && !kick.wav) picker.current?.click();
              else
                edit('kick source', (draft) => {
                  draft.kick.source = source;
                });
            }}
          />
        }
      >
        {kick.source === 'wav' && kick.wav ? <WaveTrim /> : <KickWave name={kick.name} />}
        {busy && <LinearProgress aria-label="Reading the WAV" />}
        {problem && (
          <Box role="alert" sx={{ color: sea.short, fontSize: TYPE.label, mt: 1 }}>
            {problem}
          </Box>
        )}
        <Box sx={{ mt: 1 }}>
          <Row label="Oscillator">
            <Choice
              label="Oscillator"
              options={[
                { value: 'own', label: 'its own' },
                { value: 'shared', label: 'one for both' },
              ]}
              value={kick.shared ? 'shared' : 'own'}
              onChange={(value) => {
                edit('one oscillator for both', (draft) => {
                  draft.kick.shared = value === 'shared';
                });
              }}
            />
            {kick.shared && (
              <Box
                sx={{
                  fontSize: TYPE.note,
                  color: sea.ink2,
                  overflow: 'hidden',
                  textOverflow: 'ellipsis',
                  whiteSpace: 'nowrap',
                }}
                title="The bass’s oscillator plays the drop on kick beats; the kick adds only its click, or what a WAV has above 120 Hz."
              >
                the bass plays the drop
              </Box>
            )}
          </Row>
          <ParameterRow path={['kick', 'levelDb']} of="Kick" />
          {kick.source === 'made' ? (
            <MadeKickRows />
          ) : (
            kick.wav &&
            WAV.map((field) => <ParameterRow key={field} path={['kick', 'wav', field]} of="Kick" />)
          )}
        </Box>
        <Box
          sx={{
            display: 'flex',
            alignItems: 'center',
            gap: 1,
            mt: 1,
            fontSize: TYPE.control,
            color: sea.ink2,
          }}
        >
          <Button variant="outlined" disabled={busy} onClick={() => picker.current?.click()}>
            {kick.wav ? 'Another WAV' : 'Take a WAV'}
          </Button>
          <FileInput
            picker={picker}
            label="Kick WAV"
            accept={WAV_FILES}
            onFiles={([file]) => {
              void take(file);
            }}
          />
          <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            {kick.source === 'wav' && kick.wav ? kick.wav.fileName : 'or drop one here, up to 50 MB'}
          </Box>
          <Box sx={{ ml: 'auto', display: 'flex', gap: '4px' }}>
            <Button
              size="small"
              variant="outlined"
              onClick={() => {
                keepInLibrary('kick', kick.name || 'Kick', kick).then(() => {
                  tell(`${kick.name || 'The kick'} is kept in the library.`);
                }, tellError);
              }}
            >
              Keep
            </Button>
            <Button
              size="small"
              variant="outlined"
              onClick={() => {
                setFetching(true);
              }}
            >
              Load…
            </Button>
          </Box>
        </Box>
      </Panel>
      {fetching && (
        <KeptPartsDialog
          kind="kick"
          title="Kept kicks"
          empty="No kicks kept yet. Press “Keep” below a kick to keep it."
          onClose={() => {
            setFetching(false);
          }}
          onChoose={(id) => {
            setFetching(false);
            // The beats belong to the sound: a fetched kick falls where the one before it did.
            fetchPartAs<Kick>(id, findKickProblems).then((kept) => {
              edit(`fetch ${kept.name}`, (draft) => {
                draft.kick = { ...kept, hits: draft.kick.hits, swingPct: draft.kick.swingPct };
              });
            }, tellError);
          }}
        />
      )}
    </Box>
  );
}
