import { barBeat, BEATS_PER_BAR, formatValue, loopTicks, parameter, TICKS_PER_BEAT } from '@abyssal/core';
import { Box, IconButton, ToggleButton } from '@mui/material';
import { Play, Square } from 'lucide-react';
import { useEffect, useMemo, useRef } from 'react';
import { audio } from '../audio/audio-host';
import { PEAK } from '../audio/protocol';
import { polyline } from '../charts/polyline';
import { AOrB } from '../compare/AOrB';
import { CompareButton } from '../compare/CompareButton';
import { Choice } from '../controls/Choice';
import { PlayLine } from '../controls/PlayLine';
import { useSize } from '../controls/use-size';
import { ValueField } from '../controls/ValueField';
import { useSounding } from '../sounding/sounding-store';
import { edit, useSound } from '../state/document-store';
import { tellError, useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { NUMERALS } from '../theme/theme';
import { HearThrough } from './HearThrough';
import { Load } from './Load';
import { MacrosButton } from './MacrosButton';
import { RecordButton } from './RecordButton';

const edge = { borderTop: `1px solid ${sea.ink}`, bgcolor: sea.sheet };

/** Play, tempo and key. */
export function FootPlay() {
  const ground = useSound((sound) => sound.ground);
  const playing = useView((state) => state.playing);
  const tempo = parameter('ground.tempoBpm');
  return (
    <Box
      sx={{
        ...edge,
        borderRight: `1px solid ${sea.rule}`,
        display: 'flex',
        alignItems: 'center',
        gap: '7px',
        p: '0 8px 0 12px',
        minWidth: 0,
      }}
    >
      <IconButton
        aria-label={playing ? 'Stop' : 'Play'}
        onClick={() => {
          if (playing) audio.stop();
          else audio.play().catch(tellError);
        }}
        sx={{
          bgcolor: sea.ink,
          color: sea.onInk,
          width: 40,
          height: 40,
          flex: 'none',
          '&:hover': { bgcolor: sea.tint6 },
        }}
      >
        {playing ? (
          <Square size={15} fill="currentColor" />
        ) : (
          <Play size={18} fill="currentColor" style={{ marginLeft: 2 }} />
        )}
      </IconButton>
      <RecordButton />
      <Box sx={{ minWidth: 0 }}>
        <Box
          sx={{
            display: 'flex',
            alignItems: 'baseline',
            '& input': {
              fontFamily: NUMERALS,
              fontStyle: 'italic',
              fontSize: TYPE.reading,
              textAlign: 'left',
              borderBottomColor: 'transparent',
              height: 26,
            },
          }}
        >
          <ValueField
            bare
            row={tempo}
            label="Tempo"
            value={ground.tempoBpm}
            a4Hz={440}
            width={54}
            onChange={(value) => {
              edit(
                'tempo',
                (draft) => {
                  draft.ground.tempoBpm = value;
                },
                'tempo',
              );
            }}
          />
          <Box component="span" sx={{ fontSize: TYPE.control, color: sea.ink2 }}>
            bpm
          </Box>
        </Box>
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2, whiteSpace: 'nowrap' }}>
          {ground.key} {ground.scale} · {ground.bars} {ground.bars === 1 ? 'bar' : 'bars'}
        </Box>
      </Box>
    </Box>
  );
}

/** Path of a signal over a width: one vertical stroke a pixel where there are more samples than pixels. */
function wavePath(values: Float32Array, width: number, middle: number, scale: number): string {
  const columns = Math.max(1, Math.floor(2 * width));
  const at = (c: number) => Math.min(values.length - 1, Math.floor((c / columns) * values.length));
  return polyline(Array.from({ length: columns }, (_, c) => [c / 2, middle - scale * values[at(c)]]));
}

/** The peak of what is heard, in dBFS; written straight to the page, for it changes all the time. */
function Peak() {
  const playing = useView((state) => state.playing);
  const text = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!playing) return undefined;
    const timer = setInterval(() => {
      const peak = audio.shared.state[PEAK];
      if (text.current)
        text.current.textContent =
          peak > 1e-4
            ? formatValue(parameter('output.levelDb'), 20 * Math.log10(peak)).replace('dB', 'dBFS')
            : 'silent';
    }, 100);
    return () => {
      clearInterval(timer);
    };
  }, [playing]);
  return (
    <Box
      component="span"
      ref={text}
      aria-label="Peak"
      sx={{ visibility: playing ? 'visible' : 'hidden', fontVariantNumeric: 'tabular-nums' }}
    >
      silent
    </Box>
  );
}

/** The loop with kick and bass overlaid, and where it plays. A click plays from there. */
export function Foot() {
  const ground = useSound((sound) => sound.ground);
  const low = useSounding(({ shown }) => shown?.low);
  const [ref, { width, height }] = useSize<HTMLDivElement>();
  const wave = height - 17;
  const beats = ground.bars * BEATS_PER_BAR;
  const waves = useMemo(() => {
    if (!low) return null;
    const top = Math.max(
      0.05,
      ...[low.kick, low.bass].map((values) =>
        values.reduce((most, value) => Math.max(most, Math.abs(value)), 0),
      ),
    );
    const path = (values: Float32Array) => wavePath(values, width, wave / 2, (0.47 * wave) / top);
    return { kick: path(low.kick), bass: path(low.bass) };
  }, [low, width, wave]);
  return (
    <Box sx={{ ...edge, p: '8px 18px 0', position: 'relative' }}>
      <Box
        sx={{
          position: 'absolute',
          bottom: 4,
          right: 18,
          fontSize: TYPE.mark,
          color: sea.ink2,
          pointerEvents: 'none',
        }}
      >
        <Peak />
      </Box>
      <Box
        ref={ref}
        sx={{ height: '100%' }}
        role="img"
        aria-label="The loop below Lock’s frequency: kick and bass. Click to play from there."
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          const hereTick =
            Math.floor(((event.clientX - box.left) / box.width) * beats) * (loopTicks(ground.bars) / beats);
          useView.setState({ hereTick });
          audio.play(hereTick).catch(tellError);
        }}
      >
        {width > 0 && (
          <svg width={width} height={height}>
            <rect width={width} height={wave} fill={sea.tint1} />
            {Array.from({ length: beats }, (_, beat) => (
              <g key={beat} transform={`translate(${(beat * width) / beats} 0)`}>
                <line y2={wave} stroke={sea.sheet} strokeWidth={beat % BEATS_PER_BAR === 0 ? 2.5 : 1} />
                {(beats <= 16 || beat % BEATS_PER_BAR === 0) && (
                  <text x={2} y={wave + 13} fontSize={TYPE.mark} fill={sea.ink2}>
                    {barBeat(beat * TICKS_PER_BEAT)}
                  </text>
                )}
              </g>
            ))}
            {waves && (
              <>
                <path d={waves.kick} fill="none" stroke={sea.kick} />
                <path d={waves.bass} fill="none" stroke={sea.tint6} />
              </>
            )}
            <PlayLine width={width} height={wave} />
          </svg>
        )}
      </Box>
    </Box>
  );
}

/** What is heard: both, bass or kick; in mono. */
export function FootListen() {
  const { monitor, mono } = useView();
  return (
    <Box
      sx={{
        ...edge,
        borderLeft: `1px solid ${sea.rule}`,
        p: '8px 14px',
        '@media (max-width: 1023px)': { px: '7px' },
        display: 'flex',
        flexDirection: 'column',
        justifyContent: 'space-between',
      }}
    >
      <Box
        sx={{
          display: 'flex',
          justifyContent: 'space-between',
          alignItems: 'center',
          gap: '4px',
          fontSize: TYPE.control,
          color: sea.ink2,
          whiteSpace: 'nowrap',
        }}
      >
        <MacrosButton />
        <HearThrough />
        <Load />
        <CompareButton />
      </Box>
      <Box sx={{ display: 'flex', gap: '4px' }}>
        <Choice
          label="Hear"
          options={[
            { value: 'both', label: 'Both' },
            { value: 'bass', label: 'Bass' },
            { value: 'kick', label: 'Kick' },
          ]}
          value={monitor}
          onChange={(next) => {
            useView.setState({ monitor: next });
          }}
        />
        <ToggleButton
          value="mono"
          selected={mono}
          onChange={() => {
            useView.setState({ mono: !mono });
          }}
        >
          Mono
        </ToggleButton>
        <AOrB />
      </Box>
    </Box>
  );
}
