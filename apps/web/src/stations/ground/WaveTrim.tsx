import { Box } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useSound } from '../../state/document-store';
import { recording } from '../../state/recordings';
import { tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { nearestCrossing } from './kick-edits';

const WIDTH = 400;
const HEIGHT = 96;
/** A handle snaps to a zero crossing within this, in seconds. */
const SNAP_S = 0.01;
const KEY_MS = 1;

interface Held {
  readonly samples: Float32Array;
  readonly rateHz: number;
}

/**
 * The whole recording of a kick with two handles that trim it; each snaps to where the wave passes through
 * zero.
 */
export function WaveTrim() {
  const wav = useSound((sound) => sound.kick.wav)!;
  const [held, setHeld] = useState<Held | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  useEffect(() => {
    let current = true;
    recording(wav.asset).then(({ channels, sampleRateHz }) => {
      if (current) setHeld({ samples: channels[0], rateHz: sampleRateHz });
    }, tellError);
    return () => {
      current = false;
    };
  }, [wav.asset]);
  const lengthMs = held ? (1000 * held.samples.length) / held.rateHz : 1;
  const path = useMemo(() => {
    if (!held) return '';
    const { samples } = held;
    const top = Math.max(
      1e-6,
      samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0),
    );
    let d = '';
    for (let c = 0; c < WIDTH; c++) {
      let low = 0;
      let high = 0;
      for (
        let i = Math.floor((c * samples.length) / WIDTH);
        i <
          Math.max(
            Math.floor(((c + 1) * samples.length) / WIDTH),
            Math.floor((c * samples.length) / WIDTH) + 1,
          ) && i < samples.length;
        i++
      ) {
        if (samples[i] < low) low = samples[i];
        if (samples[i] > high) high = samples[i];
      }
      d += `M${c} ${(HEIGHT / 2 - (0.46 * HEIGHT * high) / top).toFixed(1)}L${c} ${(HEIGHT / 2 - (0.46 * HEIGHT * low) / top + 0.5).toFixed(1)}`;
    }
    return d;
  }, [held]);
  const set = (end: 'startMs' | 'endMs', ms: number) => {
    if (!held) return;
    const frame = nearestCrossing(
      held.samples,
      Math.round((ms / 1000) * held.rateHz),
      Math.round(SNAP_S * held.rateHz),
    );
    const at = Math.max(0, Math.min(20000, Number(((1000 * frame) / held.rateHz).toFixed(2))));
    edit(
      end === 'startMs' ? 'trim from' : 'trim to',
      (draft) => {
        const kept = draft.kick.wav!;
        if (end === 'startMs') kept.startMs = Math.min(at, kept.endMs - 1);
        else kept.endMs = Math.max(at, kept.startMs + 1);
      },
      `trim ${end}`,
    );
  };
  const bind = useDrag(
    ({ args: [end], xy: [x], event }) => {
      event.preventDefault();
      const box = svg.current!.getBoundingClientRect();
      set(end as 'startMs' | 'endMs', ((x - box.left) / box.width) * lengthMs);
    },
    { pointer: { keys: false } },
  );
  // The tail is measured on what is played: trimmed, and resampled where it is retuned.
  const tail = useSounding((state) => state.shown?.kick.tail ?? null);
  const tailMs = tail && wav.startMs + 1000 * tail.fromS * 2 ** (wav.retuneSt / 12);
  const place = (ms: number) => (WIDTH * Math.min(ms, lengthMs)) / lengthMs;
  const handle = (end: 'startMs' | 'endMs', label: string) => {
    const ms = Math.min(wav[end], lengthMs);
    const x = place(ms);
    return (
      <g
        {...bind(end)}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={Math.round(lengthMs)}
        aria-valuenow={Math.round(ms)}
        aria-valuetext={`${ms.toFixed(1)} ms`}
        style={{ cursor: 'ew-resize', touchAction: 'none' }}
        onKeyDown={(event) => {
          const step = {
            ArrowLeft: -KEY_MS,
            ArrowRight: KEY_MS,
            PageUp: 20 * KEY_MS,
            PageDown: -20 * KEY_MS,
          }[event.key];
          if (step === undefined || !held) return;
          event.preventDefault();
          // To the next crossing in that direction at least: a snap back would hold the handle where it is.
          let to = ms + step;
          while (
            to > 0 &&
            to < lengthMs &&
            Math.abs(
              (1000 *
                nearestCrossing(
                  held.samples,
                  Math.round((to / 1000) * held.rateHz),
                  Math.round(SNAP_S * held.rateHz),
                )) /
                held.rateHz -
                ms,
            ) < 0.05
          )
            to += step;
          set(end, to);
        }}
      >
        <line
          x1={x}
          x2={x}
          y1={0}
          y2={HEIGHT}
          stroke={sea.note}
          strokeWidth={1.6}
          vectorEffect="non-scaling-stroke"
        />
        <rect x={x - 12} width={24} y={0} height={HEIGHT} fill="transparent" />
      </g>
    );
  };
  return (
    <Box
      component="svg"
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      preserveAspectRatio="none"
      role="group"
      aria-label={
        held
          ? `The recording, ${Math.round(lengthMs)} ms; the part between the two handles is kept${tailMs === null ? '' : `; its tail begins at ${Math.round(tailMs)} ms`}`
          : 'Reading the recording'
      }
      sx={{ display: 'block', width: '100%', height: HEIGHT, bgcolor: sea.tint1 }}
    >
      {tailMs !== null && (
        <line
          x1={place(tailMs)}
          x2={place(tailMs)}
          y1={0}
          y2={HEIGHT}
          stroke={sea.note}
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
        >
          <title>the tail begins</title>
        </line>
      )}
      <path d={path} stroke={sea.kick} strokeWidth={1} fill="none" vectorEffect="non-scaling-stroke" />
      <rect x={0} y={0} width={place(wav.startMs)} height={HEIGHT} fill={sea.sheet} fillOpacity={0.75} />
      <rect
        x={place(wav.endMs)}
        y={0}
        width={Math.max(0, WIDTH - place(wav.endMs))}
        height={HEIGHT}
        fill={sea.sheet}
        fillOpacity={0.75}
      />
      {held && handle('startMs', 'Trim from')}
      {held && handle('endMs', 'Trim to')}
    </Box>
  );
}
