import { bestCommonTurn, loopTicks, noteName, worstLock, wrapDegrees, type Lock as Measured, type NoteFigures } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Legend } from '../../charts/Legend';
import { TimeChart } from '../../charts/TimeChart';
import { Columns } from '../../controls/Columns';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { Sounding } from '../../controls/Sounding';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useDocument } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { DuckPanel } from './DuckPanel';
import { Rose } from './Rose';

const BEFORE_S = 0.01;
const MOST_S = 0.36;

const signed = (value: number, digits = 1) => {
  const size = Math.abs(value).toFixed(digits);
  return Number(size) === 0 ? size : `${value < 0 ? '−' : '+'}${size}`;
};
const plain = (value: number, digits = 0) => signed(value, digits).replace('+', '');
/** Turns and nudges under this are not worth a click. */
const LEAST_TURN_DEG = 0.5;
const LEAST_NUDGE_MS = 0.05;
const isLock = (lock: NoteFigures['lock']): lock is Measured => 'sumGainDb' in lock;

/** The stretch of a loop from a place on, in seconds. */
function stretch(values: Float32Array, rateHz: number, fromS: number, lengthS: number): Float32Array {
  const from = Math.round(fromS * rateHz);
  return Float32Array.from({ length: Math.max(1, Math.round(lengthS * rateHz)) }, (_, i) => values[(((from + i) % values.length) + values.length) % values.length]);
}

/** How the sound sits with the kick, note by note. */
export function Lock() {
  const document = useDocument();
  const { shown, of } = useSounding();
  const [chosen, setChosen] = useState<number | null>(null);
  const { lock } = document;
  const notes = useMemo(() => shown?.notes ?? [], [shown]);
  const meeting = useMemo(() => notes.map((note, index) => ({ note, index })).filter(({ note }) => isLock(note.lock)), [notes]);
  const worst = worstLock(notes);
  const at = Math.max(0, chosen === null ? meeting.findIndex(({ note }) => note.note === worst?.note) : meeting.findIndex(({ index }) => index === chosen));
  const present = meeting[at]?.note ?? null;
  const measured = present && isLock(present.lock) ? present.lock : null;

  const waves = useMemo(() => {
    if (!shown || !present || !of) return null;
    const { rateHz, kick, bass } = shown.low;
    const perTick = kick.length / loopTicks(of.ground.bars) / rateHz;
    const fromS = present.note.tick * perTick - BEFORE_S;
    const lengthS = Math.min(MOST_S, present.note.ticks * perTick + 2 * BEFORE_S);
    const k = stretch(kick, rateHz, fromS, lengthS);
    const b = stretch(bass, rateHz, fromS, lengthS);
    return { stepS: 1 / rateHz, traces: [{ name: 'kick', colour: 'kick', values: k }, { name: 'bass', colour: 'tint6', values: b }, { name: 'sum', colour: 'ink2', values: k.map((value, i) => value + b[i]), dashed: true, width: 1 }] as const };
  }, [shown, present, of]);

  // Figures are a moment behind while the bass is being turned: the bearing shown runs ahead by what was turned
  // since, and what is proposed counts from the state that was measured, so that asking twice is asking once.
  const from = of?.lock ?? lock;
  const since = lock.turnDeg - from.turnDeg;
  const turnTo = (turnDeg: number, group: string | null = null) => { edit('turn', (draft) => { draft.lock.turnDeg = Math.round(wrapDegrees(turnDeg) * 10) / 10; }, group); };
  const common = useMemo(() => bestCommonTurn(meeting.flatMap(({ note }) => (isLock(note.lock) ? [note.lock] : []))), [meeting]);
  const bearings = meeting.flatMap(({ note }) => (isLock(note.lock) && note.lock.bearingDeg !== null ? [note.lock.bearingDeg] : []));
  const spread = bearings.length > 1 && measured?.bearingDeg != null ? Math.max(...bearings.map((b) => wrapDegrees(b - measured.bearingDeg!))) - Math.min(...bearings.map((b) => wrapDegrees(b - measured.bearingDeg!))) : null;
  const tail = shown?.kick.tail;
  const turnWorth = measured?.bestTurnDeg != null && Math.abs(measured.bestTurnDeg) >= LEAST_TURN_DEG;
  const nudgeWorth = measured?.nudgeMs != null && Math.abs(measured.nudgeMs) >= LEAST_NUDGE_MS;
  const step = (by: number) => { setChosen(meeting[(at + by + meeting.length) % meeting.length].index); };

  return (
    <Box sx={{ display: 'grid', gap: '10px' }}>
      <Panel
        title={`Kick and bass below ${Math.round(lock.belowHz)} Hz`} label="Overlay"
        aside={<>
          {present && <span>note {noteName(present.note.pitch)}{present.bassToKickDb.value !== null ? `, bass ${plain(Math.abs(present.bassToKickDb.value), 1)} dB ${present.bassToKickDb.value < 0 ? 'under' : 'over'} the kick` : ''}{tail ? `; tail ${tail.hz.toFixed(1)} Hz (${tail.note} ${signed(tail.cents, 0)} ct)` : ''}</span>}
          <Legend entries={[['kick', sea.kick], ['bass', sea.tint6], ['sum', sea.ink2, true]]} />
          <Button aria-label="Note before" disabled={meeting.length < 2} onClick={() => { step(-1); }} sx={{ p: 0 }}><ChevronLeft size={16} /></Button>
          <Button aria-label="Next note" disabled={meeting.length < 2} onClick={() => { step(1); }} sx={{ p: 0 }}><ChevronRight size={16} /></Button>
        </>}
      >
        {waves ? <TimeChart label={`Kick, bass and their sum below ${Math.round(lock.belowHz)} Hz over note ${noteName(present!.note.pitch)}`} height={158} stepS={waves.stepS} traces={waves.traces} />
          : <Box sx={{ height: 158, display: 'grid', placeContent: 'center', bgcolor: sea.tint1, color: sea.ink2, textAlign: 'center', px: 4 }}>{!shown ? 'Rendering the loop.' : document.line.notes.length === 0 ? 'The line is empty: draw a note at the Line station.' : !document.kick.on || document.kick.hits.length === 0 ? 'There is no kick: set its beats at the Ground station.' : 'No note of the line meets the kick for a whole period.'}</Box>}
        <ParameterRow path={['lock', 'belowHz']} label="Compare below" />
      </Panel>
      <Columns of="minmax(0, 3fr) minmax(0, 4fr)">
        <Panel title="Phase bearing" aside="drag to turn the bass">
          <Rose lock={measured} bearingDeg={measured?.bearingDeg == null ? null : wrapDegrees(measured.bearingDeg + since)} reason={measured?.reason ?? (!shown ? 'measuring' : present ? null : 'no note meets the kick')} onTurn={(by) => { turnTo(lock.turnDeg + by, 'turn'); }} />
        </Panel>
        <Box sx={{ display: 'grid', gap: '10px' }}>
          <Panel title="Where it stands" aside={<>
            {present && <span>note {noteName(present.note.pitch)}</span>}
            <Button variant="outlined" disabled={lock.turnDeg === 0 && lock.nudgeMs === 0} onClick={() => { edit('no turn, no nudge', (draft) => { draft.lock.turnDeg = 0; draft.lock.nudgeMs = 0; }); }}>Neither turn nor nudge</Button>
          </>}>
            <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: '4px 8px' }}>
              <Sounding label="sum gain" value={measured ? signed(measured.sumGainDb) : '–'} unit="dB" />
              <Sounding label="best possible" value={measured ? signed(measured.bestSumGainDb) : '–'} unit="dB" />
              <Sounding label="gain to win" value={measured ? signed(measured.bestSumGainDb - measured.sumGainDb) : '–'} unit="dB" />
              <Sounding label="coherence" value={measured ? measured.coherence.toFixed(2) : '–'} />
              <Sounding label="bearing now" value={measured?.bearingDeg == null ? '–' : plain(measured.bearingDeg)} unit="°" />
              <Sounding label="best turn" value={measured?.bestTurnDeg == null ? '–' : signed(measured.bestTurnDeg, 0)} unit="°" />
              <Sounding label="nudge instead" value={measured?.nudgeMs == null ? '–' : signed(measured.nudgeMs, 2)} unit="ms" />
              <Sounding label="spread over notes" value={spread === null ? '–' : plain(spread)} unit="°" />
            </Box>
            <Box sx={{ display: 'flex', gap: '6px', my: '6px', flexWrap: 'wrap' }}>
              <Button variant="contained" disabled={!turnWorth} onClick={() => { turnTo(from.turnDeg + measured!.bestTurnDeg!); }}>{turnWorth ? `Turn by ${signed(measured!.bestTurnDeg!, 0)}°` : measured?.bestTurnDeg == null ? 'Turn' : 'Turned best'}</Button>
              <Button variant="outlined" disabled={common === null || bearings.length < 2 || common.turnDeg === 0} onClick={() => { turnTo(from.turnDeg + common!.turnDeg); }}>Best for the line{common && bearings.length > 1 ? ` ${signed(common.turnDeg, 0)}°` : ''}</Button>
              <Button variant="outlined" disabled={!nudgeWorth} onClick={() => { edit('nudge', (draft) => { draft.lock.nudgeMs = Math.max(-20, Math.min(20, Math.round((from.nudgeMs + measured!.nudgeMs!) * 100) / 100)); }); }}>{nudgeWorth ? `Nudge by ${signed(measured!.nudgeMs!, 2)} ms` : 'Nudge'}</Button>
            </Box>
            <ParameterRow path={['lock', 'turnDeg']} linkRoom={false} />
            <ParameterRow path={['lock', 'nudgeMs']} linkRoom={false} />
          </Panel>
          <DuckPanel />
        </Box>
      </Columns>
    </Box>
  );
}
