import { builtInFrames, cycleOf, FRAME_TABLES, framesFromAudio, type CycleSpectrum } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { contours } from 'd3-contour';
import { useEffect, useMemo, useState } from 'react';
import { FileButton, WAV_FILES } from '../../../controls/FileButton';
import { ParameterRow } from '../../../controls/ParameterRow';
import { ListChoice } from '../../../controls/ListChoice';
import { recording } from '../../../state/recordings';
import { tellError } from '../../../state/view-store';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { framesToWav, takeFrames } from './frame-files';
import { useTone, type ToneProps } from './use-tone';

const ACROSS = 96;
const UP = 48;
const HEIGHT = 118;
const TINTS = [sea.tint1, sea.tint2, sea.tint3, sea.tint4, sea.tint5, sea.tint6];

/** A contour as a path. */
const outline = (shape: { readonly coordinates: readonly (readonly (readonly number[])[])[][] }) =>
  shape.coordinates
    .flatMap((polygon) =>
      polygon.map((ring) => `M${ring.map(([x, y]) => `${x.toFixed(2)} ${y.toFixed(2)}`).join('L')}Z`),
    )
    .join('');

/** Frames as a contour map: phase across, position up, height as tint. */
function ContourMap({
  frames,
  positionPct,
  label,
}: {
  readonly frames: readonly CycleSpectrum[];
  readonly positionPct: number;
  readonly label: string;
}) {
  const shapes = useMemo(() => {
    const rows = frames.map((frame) =>
      cycleOf({ sine: frame.sine.subarray(0, 40), cosine: frame.cosine.subarray(0, 40) }, ACROSS),
    );
    const values = new Float64Array(ACROSS * UP);
    let most = 1e-9;
    for (let y = 0; y < UP; y++) {
      const place = (1 - y / (UP - 1)) * (rows.length - 1);
      const k = Math.min(rows.length - 1, Math.floor(place));
      const next = rows[Math.min(rows.length - 1, k + 1)];
      for (let x = 0; x < ACROSS; x++) {
        values[y * ACROSS + x] = rows[k][x] + (next[x] - rows[k][x]) * (place - k);
        most = Math.max(most, Math.abs(values[y * ACROSS + x]));
      }
    }
    return contours()
      .size([ACROSS, UP])
      .thresholds([-1.01, -0.5, -0.2, 0.05, 0.3, 0.6].map((t) => t * most))(Array.from(values))
      .map(outline);
  }, [frames]);
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${ACROSS} ${UP}`}
      preserveAspectRatio="none"
      width="100%"
      height={HEIGHT}
      role="img"
      aria-label={label}
      sx={{ display: 'block', bgcolor: sea.tint1 }}
    >
      {shapes.map((d, i) => (
        <path
          key={i}
          d={d}
          fill={TINTS[i]}
          stroke={sea.sheet}
          strokeWidth={0.7}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      <line
        x1={0}
        x2={ACROSS}
        y1={UP * (1 - positionPct / 100)}
        y2={UP * (1 - positionPct / 100)}
        stroke={sea.note}
        strokeWidth={1.8}
        vectorEffect="non-scaling-stroke"
      />
    </Box>
  );
}

/** A table of single cycles: built in, or cut from a WAV; written out again as one. */
export function FramesEditor(props: ToneProps) {
  const { source, of, at, change } = useTone<'frames'>(props);
  const [imported, setImported] = useState<readonly CycleSpectrum[] | null>(null);
  const [length, setLength] = useState('');
  const [busy, setBusy] = useState(false);
  const { wav, table } = source;
  const built = useMemo(() => builtInFrames(table), [table]);
  useEffect(() => {
    let current = true;
    setImported(null);
    if (wav)
      recording(wav.asset).then(({ channels }) => {
        if (current) setImported(framesFromAudio(channels[0], wav.cycleFrames));
      }, tellError);
    return () => {
      current = false;
    };
  }, [wav]);
  const frames = wav ? imported : built;
  const take = async (file: File) => {
    setBusy(true);
    try {
      const taken = await takeFrames(file, length.trim() === '' ? null : Number(length));
      change('frames from a WAV', (draft) => {
        draft.wav = taken;
      });
    } catch (error) {
      tellError(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', mb: '5px' }}>
        <ListChoice<(typeof FRAME_TABLES)[number] | ''>
          label="Table"
          grow
          value={wav ? '' : table}
          options={[...(wav ? [{ value: '' as const, label: wav.fileName }] : []), ...FRAME_TABLES]}
          onChange={(next) => {
            if (next !== '')
              change('table', (draft) => {
                draft.table = next;
                draft.wav = null;
              });
          }}
        />
        <FileButton
          size="small"
          label="WAV with frames"
          accept={WAV_FILES}
          disabled={busy}
          onFiles={([file]) => {
            void take(file);
          }}
        >
          {busy ? 'cutting…' : 'WAV…'}
        </FileButton>
        <Button
          size="small"
          variant="outlined"
          disabled={!frames}
          onClick={() => {
            if (frames) framesToWav(frames, wav ? wav.fileName : table);
          }}
        >
          save WAV
        </Button>
      </Box>
      {frames && frames.length > 0 ? (
        <ContourMap
          frames={frames}
          positionPct={source.positionPct}
          label={`${wav ? wav.fileName : table}: ${frames.length} frames, phase across, position up; at ${Math.round(source.positionPct)} %`}
        />
      ) : (
        <Box sx={{ height: HEIGHT, bgcolor: sea.tint1, p: 1, fontSize: TYPE.control, color: sea.ink2 }}>
          {wav ? 'Reading the frames…' : ''}
        </Box>
      )}
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 1,
          minHeight: 26,
          fontSize: TYPE.note,
          color: sea.ink2,
        }}
      >
        Cycle of a WAV to come, in frames:
        <Box
          component="input"
          aria-label="Cycle length in frames"
          placeholder="auto"
          value={length}
          onChange={(event: React.ChangeEvent<HTMLInputElement>) => {
            setLength(event.target.value.replace(/\D/g, '').slice(0, 5));
          }}
          sx={{
            width: 60,
            height: 24,
            font: 'inherit',
            fontSize: TYPE.control,
            border: 0,
            borderBottom: `1px solid ${sea.rule}`,
            bgcolor: 'transparent',
            color: sea.ink,
            textAlign: 'right',
          }}
        />
      </Box>
      <ParameterRow path={[...at, 'positionPct']} of={of} />
      <ParameterRow path={[...at, 'formantSt']} of={of} label="Formants" />
    </>
  );
}
