import { bestTurnFor, runsFree, roseGainDb, worstLock, wrapDegrees, noteName, type Lock as Measured, type NoteFigures, type NoteRose } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { useMemo, useState } from 'react';
import { Choice } from '../../controls/Choice';
import { Columns } from '../../controls/Columns';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { Sounding } from '../../controls/Sounding';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useDocument } from '../../state/document-store';
import { AdvicePanel } from './AdvicePanel';
import { DuckPanel } from './DuckPanel';
import { NotesTable } from './NotesTable';
import { Overlay } from './Overlay';
import { Rose } from './Rose';
import { plain, signed } from './words';

/** Turns and nudges under this are not worth a click. */
const LEAST_TURN_DEG = 0.5;
const LEAST_NUDGE_MS = 0.05;
/** A nudge over this is felt in the groove. */
const GROOVE_MS = 5;
const isLock = (lock: NoteFigures['lock']): lock is Measured => 'sumGainDb' in lock;
const NO_MEETING = 'no kick meets this note';

/** How far angles stand apart at the most, in degrees, round the first of them; null for fewer than two. */
function spreadOf(angles: readonly number[]): number | null {
  if (angles.length < 2) return null;
  const round = angles.map((angle) => wrapDegrees(angle - angles[0]));
  return Math.max(...round) - Math.min(...round);
}

/** How the sound sits with the kick, note by note. */
export function Lock() {
  const document = useDocument();
  const { shown, of, roses, fit } = useSounding();
  const [chosen, setChosen] = useState<number | null>(null);
  const [below, setBelow] = useState<'advice' | 'notes' | 'ducking'>('advice');
  const [drawn, setDrawn] = useState<string | null>(null);
  const { lock } = document;
  const notes = useMemo(() => shown?.notes ?? [], [shown]);
  const meeting = useMemo(() => notes.map((note, index) => ({ note, index })).filter(({ note }) => isLock(note.lock) || note.lock.reason !== NO_MEETING), [notes]);
  const worst = worstLock(notes);
  const at = Math.max(0, chosen === null ? meeting.findIndex(({ note }) => note.note === worst?.note) : meeting.findIndex(({ index }) => index === chosen));
  const present = meeting[at]?.note ?? null;
  const index = meeting[at]?.index ?? null;
  const measured = present && isLock(present.lock) ? present.lock : null;
  const rose: NoteRose | null = index === null ? null : roses?.[index] ?? null;
  const best = useMemo(() => (rose ? bestTurnFor([rose]) : null), [rose]);
  const common = useMemo(() => (roses ? bestTurnFor(roses.filter((each): each is NoteRose => each !== null)) : null), [roses]);

  // Figures are a moment behind while the bass is being turned: the bearing shown runs ahead by what was turned
  // since, and what is proposed counts from the state that was measured, so that asking twice is asking once.
  const from = of?.lock ?? lock;
  const since = lock.turnDeg - from.turnDeg;
  const turnTo = (turnDeg: number, group: string | null = null) => { edit('turn', (draft) => { draft.lock.turnDeg = Math.round(wrapDegrees(turnDeg) * 10) / 10; }, group); };
  const bearings = meeting.flatMap(({ note }) => (isLock(note.lock) && note.lock.bearingDeg !== null ? [note.lock.bearingDeg] : []));
  const spread = spreadOf(bearings);
  const free = runsFree(document);
  const passSpread = index === null || !shown ? null : spreadOf(shown.bearings[index] ?? []);
  const turnWorth = best !== null && measured?.bearingDeg != null && Math.abs(best.turnDeg) >= LEAST_TURN_DEG;
  const nudgeWorth = measured?.nudgeMs != null && Math.abs(measured.nudgeMs) >= LEAST_NUDGE_MS;
  const nudgeTo = Math.max(-20, Math.min(20, Math.round((from.nudgeMs + (measured?.nudgeMs ?? 0)) * 100) / 100));
  const after = fit?.proposals.find(({ id }) => id === drawn)?.low ?? null;
  const none = (value: number | null | undefined, write: (value: number) => string) => (value == null ? '–' : write(value));

  return (
    <Box sx={{ display: 'grid', gap: '10px' }} aria-busy={shown !== null && roses === null} data-station="lock">
      <Overlay
        present={present} after={after} onStep={meeting.length < 2 ? null : (by) => { setChosen(meeting[(at + by + meeting.length) % meeting.length].index); }}
        empty={!shown ? 'Rendering the loop.' : document.line.notes.length === 0 ? 'The line is empty: draw a note at the Line station.' : !document.kick.on || document.kick.hits.length === 0 ? 'There is no kick: set its beats at the Ground station.' : 'No note of the line meets the kick for a whole period.'}
      />
      <Columns of="minmax(0, 3fr) minmax(0, 4fr)">
        <Panel title="Phase bearing" aside={free ? 'its phase runs free' : 'drag to turn the bass'}>
          <Rose
            rose={rose} measuredDeg={measured?.bearingDeg ?? null} since={since} bestTurnDeg={best?.turnDeg ?? null}
            reason={!shown ? 'measuring' : !present ? 'no note meets the kick' : !isLock(present.lock) ? present.lock.reason : measured?.reason ?? (rose ? null : 'turning the bass round')}
            onTurn={(by) => { turnTo(lock.turnDeg + by, 'turn'); }}
          />
          <ParameterRow path={['lock', 'turnDeg']} linkRoom={false} labelWidth={52} />
          <ParameterRow path={['lock', 'nudgeMs']} linkRoom={false} labelWidth={52} />
        </Panel>
        <Box sx={{ display: 'grid', gap: '10px' }}>
          <Panel title="Where it stands" aside={<>
            {present && <span>note {noteName(present.note.pitch)}{present.note.tie ? ', tied' : ''}</span>}
            <Button variant="outlined" disabled={lock.turnDeg === 0 && lock.nudgeMs === 0 && !lock.invert && lock.turns.length === 0} onClick={() => { edit('neither turn nor nudge', (draft) => { Object.assign(draft.lock, { turnDeg: 0, nudgeMs: 0, invert: false, turns: [] }); }); }}>As written</Button>
          </>}>
            <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: '2px 8px' }}>
              <Sounding label="sum gain" value={none(measured?.sumGainDb, signed)} unit="dB" />
              <Sounding label="best bearing" value={measured?.bearingDeg == null || !best ? '–' : plain(wrapDegrees(measured.bearingDeg + best.turnDeg))} unit="°" />
              <Sounding label="gain to win" value={measured && best ? signed(Math.max(0, best.worstSumGainDb - measured.sumGainDb)) : '–'} unit="dB" />
              <Sounding label="coherence" value={none(measured?.coherence, (value) => value.toFixed(2))} />
              <Sounding label="bearing now" value={none(measured?.bearingDeg, plain)} unit="°" />
              <Sounding label={passSpread === null ? 'spread over notes' : 'over notes · passes'} value={`${none(spread, plain)}${passSpread === null ? '' : ` · ${plain(passSpread)}`}`} unit="°" />
              <Sounding label="nudge instead" value={none(measured?.nudgeMs, (value) => signed(value, 2))} unit="ms" />
              <Sounding label="overlap" value={none(present?.overlap, (value) => Math.round(100 * value).toString())} unit="%" />
            </Box>
            <Box sx={{ display: 'flex', gap: '6px', mt: '6px', flexWrap: 'wrap' }}>
              <Button variant="contained" disabled={!turnWorth || free} onClick={() => { turnTo(from.turnDeg + best!.turnDeg); }}>{turnWorth ? `Turn by ${signed(best!.turnDeg, 0)}°: ${signed(roseGainDb(rose!, best!.turnDeg))} dB` : measured?.bearingDeg == null || !best ? 'Turn' : 'Turned best'}</Button>
              <Button variant="outlined" disabled={common === null || free || bearings.length < 2 || Math.abs(common.turnDeg) < LEAST_TURN_DEG} onClick={() => { turnTo(from.turnDeg + common!.turnDeg); }}>Best for the line{common && bearings.length > 1 ? ` ${signed(common.turnDeg, 0)}°: ${signed(common.worstSumGainDb)} dB` : ''}</Button>
              <Button variant="outlined" disabled={!nudgeWorth} title={Math.abs(nudgeTo) > GROOVE_MS ? 'moves the groove by more than 5 ms' : undefined} onClick={() => { edit('nudge', (draft) => { draft.lock.nudgeMs = nudgeTo; }); }}>{nudgeWorth ? `Nudge by ${signed(measured!.nudgeMs!, 2)} ms${Math.abs(nudgeTo) > GROOVE_MS ? ', felt' : ''}` : 'Nudge'}</Button>
              <Button variant="outlined" aria-pressed={lock.invert} onClick={() => { edit('polarity', (draft) => { draft.lock.invert = !lock.invert; }); }}>{lock.invert ? 'Polarity turned' : 'Polarity'}</Button>
            </Box>
          </Panel>
          <Panel
            label={{ advice: 'Advice for the lock', notes: 'Note by note', ducking: 'Ducking' }[below]}
            title={<Choice label="Below" options={[{ value: 'advice', label: 'advice' }, { value: 'notes', label: 'note by note' }, { value: 'ducking', label: 'ducking' }]} value={below} onChange={setBelow} />}
          >
            {below === 'advice' && <AdvicePanel drawn={drawn} onDraw={setDrawn} />}
            {below === 'notes' && <NotesTable meeting={meeting} chosen={index} onChoose={setChosen} />}
            {below === 'ducking' && <DuckPanel hardHoldMs={shown?.hardHoldMs ?? 0} />}
          </Panel>
        </Box>
      </Columns>
    </Box>
  );
}
