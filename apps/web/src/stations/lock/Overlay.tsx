import { noteName, plain, signed, soundingHz } from '@abyssal/core';
import { Box, Button, ToggleButton } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { Legend } from '../../charts/Legend';
import { TimeChart, type Trace } from '../../charts/TimeChart';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { useWheelInFocus } from '../../controls/use-wheel-in-focus';
import type { LowTrace } from '../../sounding/told';
import { useSounding } from '../../sounding/sounding-store';
import { useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { hitTick, type Met } from './met';
import { placeWords } from './words';

const BEFORE_S = 0.01;
const LEAST_S = 0.03;
const START_S = 0.36;
const HEIGHT = 150;

/** The stretch of a loop from a place on, in seconds. */
function stretch(values: Float32Array, rateHz: number, fromS: number, lengthS: number): Float32Array {
  const from = Math.round(fromS * rateHz);
  return Float32Array.from(
    { length: Math.max(2, Math.round(lengthS * rateHz)) },
    (_, i) => values[(((from + i) % values.length) + values.length) % values.length],
  );
}

interface OverlayProps {
  readonly present: Met | null;
  readonly empty: string;
  /** Steps to another hit that meets a note; null where there is none. */
  readonly onStep: ((by: number) => void) | null;
  /** What a proposed change would make of it, drawn over. */
  readonly after: LowTrace | null;
}

/**
 * Kick, bass and their sum below a frequency, for one hit that meets a note. Zoomed by wheel or keys, panned
 * by drag or keys.
 */
export const Overlay = memo(function Overlay({ present, empty, onStep, after }: OverlayProps) {
  const look = useSounding((state) => state.look);
  const of = useSounding((state) => state.lookOf);
  const tail = useSounding((state) => state.shown?.kick.tail);
  const belowHz = useSound((sound) => sound.lock.belowHz);
  const [view, setView] = useState({ fromS: 0, spanS: START_S });
  const [atKick, setAtKick] = useState(false);
  const [grid, setGrid] = useState(false);
  const ref = useRef<HTMLDivElement>(null);
  const key = present ? `${present.note.note.tick} ${present.note.note.pitch} ${present.place}` : '';
  useEffect(() => {
    setView({ fromS: 0, spanS: START_S });
  }, [key, atKick]);
  const clamp = (fromS: number, spanS: number) => {
    setView({ fromS: Math.max(-0.2, Math.min(1.2, fromS)), spanS: Math.max(LEAST_S, Math.min(1.2, spanS)) });
  };
  const zoom = (by: number) => {
    clamp(view.fromS + (view.spanS * (1 - by)) / 2, view.spanS * by);
  };
  const bind = useDrag(
    ({ delta: [dx], event }) => {
      event.preventDefault();
      ref.current!.focus({ preventScroll: true });
      clamp(view.fromS - (dx / ref.current!.clientWidth) * view.spanS, view.spanS);
    },
    { pointer: { keys: false } },
  );
  useWheelInFocus(ref, (up) => {
    zoom(up ? 1 / 1.2 : 1.2);
  });

  const drawn = useMemo(() => {
    if (!look || !present || !of) return null;
    const { rateHz, kick, bass } = look.low;
    // Where the two begin to sound together, or where the hit falls: before the note, it may be.
    const { meeting } = present;
    const originS = (atKick ? meeting.hitFrame : meeting.from) / rateHz - BEFORE_S;
    const cut = (trace: Float32Array) => stretch(trace, rateHz, originS + view.fromS, view.spanS);
    const k = cut(kick);
    const b = cut(bass);
    const traces: Trace[] = [
      { name: 'kick', colour: 'kick', values: k },
      { name: 'bass', colour: 'tint6', values: b },
      { name: 'sum', colour: 'ink2', values: k.map((value, i) => value + b[i]), dashed: true, width: 1 },
    ];
    if (after) {
      const otherKick = cut(after.kick);
      traces.push({
        name: 'sum after',
        colour: 'note',
        values: cut(after.bass).map((value, i) => value + otherKick[i]),
        width: 1.4,
      });
    }
    if (look.ducking) {
      const { rateHz: rate, gains } = look.ducking;
      const top = Math.max(
        ...traces.slice(0, 2).map(({ values }) => Math.max(...Array.from(values, Math.abs))),
      );
      traces.push({
        name: 'ducking',
        colour: 'watch',
        width: 1.4,
        values: k.map(
          (_, i) =>
            top *
            gains[
              ((Math.round((originS + view.fromS + i / rateHz) * rate) % gains.length) + gains.length) %
                gains.length
            ],
        ),
      });
    }
    const periodS = 1 / soundingHz(of, present.note.note.pitch);
    const marks = grid
      ? Array.from({ length: Math.ceil(view.spanS / periodS) }, (_, i) => ({
          ms: 1000 * (((((BEFORE_S - view.fromS) % periodS) + periodS) % periodS) + i * periodS),
          text: '',
        })).filter(({ ms }) => ms < 1000 * view.spanS)
      : [];
    return { stepS: 1 / rateHz, traces, marks };
  }, [look, present, of, after, atKick, view, grid]);
  const level = present?.note.bassToKickDb.value ?? null;
  const hit = present && of ? placeWords(hitTick(of, present.meeting)) : '';
  return (
    <Panel
      title="Kick and bass"
      label="Overlay"
      aside={
        <>
          {present && (
            <span>
              {noteName(present.note.note.pitch)}, hit {hit}
              {present.note.meetings.length > 1
                ? ` (${present.place + 1} of ${present.note.meetings.length})`
                : ''}
              {level !== null
                ? `: bass ${plain(Math.abs(level))} dB ${level < 0 ? 'under' : 'over'} the kick`
                : ''}
              {tail ? `; tail ${tail.note} ${signed(tail.cents, 0)} ct` : ''}
            </span>
          )}
          <Legend
            entries={[
              ['kick', sea.kick],
              ['bass', sea.tint6],
              ['sum', sea.ink2, true],
              ...(after ? [['after', sea.note] as [string, string]] : []),
              ...(drawn?.traces.some(({ name }) => name === 'ducking')
                ? [['ducking', sea.watch] as [string, string]]
                : []),
            ]}
          />
          <Button aria-label="Previous hit" disabled={!onStep} onClick={() => onStep?.(-1)} sx={{ p: 0 }}>
            <ChevronLeft size={16} />
          </Button>
          <Button aria-label="Next hit" disabled={!onStep} onClick={() => onStep?.(1)} sx={{ p: 0 }}>
            <ChevronRight size={16} />
          </Button>
        </>
      }
    >
      {drawn ? (
        <Box
          ref={ref}
          {...bind()}
          tabIndex={0}
          role="group"
          aria-label={`${Math.round(1000 * view.spanS)} ms from ${Math.round(1000 * view.fromS)} ms; arrows move, plus and minus zoom`}
          onKeyDown={(event) => {
            if (event.key === '+' || event.key === '=') zoom(1 / 1.4);
            else if (event.key === '-') zoom(1.4);
            else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight')
              clamp(view.fromS + (event.key === 'ArrowLeft' ? -0.1 : 0.1) * view.spanS, view.spanS);
            else if (event.key === 'Home') clamp(0, START_S);
            else return;
            event.preventDefault();
          }}
          sx={{ touchAction: 'none', cursor: 'grab' }}
        >
          <TimeChart
            label={`Kick, bass and their sum below ${Math.round(belowHz)} Hz over note ${noteName(present!.note.note.pitch)}, hit ${hit}${after ? ', and the sum after the change' : ''}`}
            height={HEIGHT}
            stepS={drawn.stepS}
            traces={drawn.traces}
            marks={drawn.marks}
          />
        </Box>
      ) : (
        <Box
          sx={{
            height: HEIGHT,
            display: 'grid',
            placeContent: 'center',
            bgcolor: sea.tint1,
            color: sea.ink2,
            textAlign: 'center',
            px: 4,
          }}
        >
          {empty}
        </Box>
      )}
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mt: '3px' }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <ParameterRow path={['lock', 'belowHz']} label="Compare below" linkRoom={false} />
        </Box>
        <ToggleButton
          value="kick"
          size="small"
          selected={atKick}
          onChange={() => {
            setAtKick(!atKick);
          }}
        >
          from the kick
        </ToggleButton>
        <ToggleButton
          value="grid"
          size="small"
          selected={grid}
          onChange={() => {
            setGrid(!grid);
          }}
        >
          cycles
        </ToggleButton>
        <Button
          size="small"
          variant="outlined"
          aria-label="Zoom out"
          onClick={() => {
            zoom(1.4);
          }}
        >
          −
        </Button>
        <Button
          size="small"
          variant="outlined"
          aria-label="Zoom in"
          onClick={() => {
            zoom(1 / 1.4);
          }}
        >
          +
        </Button>
      </Box>
    </Panel>
  );
});
