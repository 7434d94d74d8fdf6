import type { Stems, WavBits } from '@abyssal/core';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  LinearProgress,
  Typography,
} from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { Choice } from '../controls/Choice';
import { download, startBounce, wasCancelled, type Render } from '../sounding/bounce';
import type { BouncedFile } from '../sounding/render-types';
import { useDocument } from '../state/document-store';
import { tell, tellError } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

const BITS = [
  { value: '16', label: '16 bit, dithered' },
  { value: '24', label: '24 bit' },
  { value: '32f', label: '32 bit float' },
] as const;
const STEMS = [
  { value: 'none', label: 'None', help: 'The loop alone.' },
  {
    value: 'shares',
    label: 'As heard',
    help: 'Kick, bass and each layer; the layers add up to the bass, grit and all.',
  },
  { value: 'dry', label: 'Dry', help: 'Kick, bass and each layer; the layers as they go into grit.' },
] as const;
const RATES = ['44100', '48000', '96000'] as const;

/** Renders the loop to WAV. */
export function BounceDialog({ onClose }: { readonly onClose: () => void }) {
  const document = useDocument();
  const [bits, setBits] = useState<WavBits>('24');
  const [rate, setRate] = useState<(typeof RATES)[number]>('48000');
  const [stems, setStems] = useState<Stems>('none');
  const [done, setDone] = useState<number | null>(null);
  const bounce = useRef<Render<readonly BouncedFile[]> | null>(null);
  useEffect(
    () => () => {
      bounce.current?.cancel();
    },
    [],
  );

  const start = async () => {
    setDone(0);
    bounce.current = startBounce(document, { bits, sampleRateHz: Number(rate), stems }, setDone);
    try {
      const files = await bounce.current.result;
      for (const { name, bytes } of files) download(name, bytes as Uint8Array<ArrayBuffer>, 'audio/wav');
      tell(files.length === 1 ? `Bounced ${files[0].name}.` : `Bounced ${files.length} files.`);
      onClose();
    } catch (error) {
      setDone(null);
      if (!wasCancelled(error)) tellError(error);
    }
  };
  const row = (label: string, control: React.ReactNode) => (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, height: 34 }}>
      <Box sx={{ width: 80, color: sea.ink2 }}>{label}</Box>
      {control}
    </Box>
  );
  return (
    <Dialog open onClose={onClose} aria-labelledby="bounce-title">
      <DialogTitle id="bounce-title" sx={{ fontSize: TYPE.title }}>
        Bounce the loop
      </DialogTitle>
      <DialogContent sx={{ width: 420 }}>
        {row(
          'Bits',
          <Choice label="Bits" options={BITS} value={bits} onChange={setBits} disabled={done !== null} />,
        )}
        {row(
          'Rate',
          <Choice
            label="Sample rate"
            options={RATES.map((value) => ({ value, label: `${Number(value) / 1000} kHz` }))}
            value={rate}
            onChange={setRate}
            disabled={done !== null}
          />,
        )}
        {row(
          'Stems',
          <Choice label="Stems" options={STEMS} value={stems} onChange={setStems} disabled={done !== null} />,
        )}
        <Typography sx={{ fontSize: TYPE.control, color: sea.ink2, minHeight: 36, mt: 0.5 }}>
          {STEMS.find(({ value }) => value === stems)!.help}
        </Typography>
        {done !== null && (
          <LinearProgress variant="determinate" value={100 * done} aria-label="Bounce" sx={{ mt: 1 }} />
        )}
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={onClose}>
          {done === null ? 'Close' : 'Cancel'}
        </Button>
        <Button
          variant="contained"
          disabled={done !== null}
          onClick={() => {
            void start();
          }}
        >
          Bounce
        </Button>
      </DialogActions>
    </Dialog>
  );
}
