import { bestTurnFor, NOT_MET, runsFree, worstLock, wrapDegrees, type Lock as Measured, type NoteLevels, type NoteRose } from '@abyssal/core';
import { Box } from '@mui/material';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Columns } from '../../controls/Columns';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { lookAtLockFirst, useSounding } from '../../sounding/sounding-store';
import { edit, useDocument } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { Further } from './Further';
import { Overlay } from './Overlay';
import { Rose } from './Rose';
import { Standing } from './Standing';

const isLock = (lock: NoteLevels['lock']): lock is Measured => 'sumGainDb' in lock;
const NO_NOTES: readonly NoteLevels[] = [];

/** How far angles stand apart at the most, in degrees, round the first of them; null for fewer than two. */
function spreadOf(angles: readonly number[]): number | null {
  if (angles.length < 2) return null;
  const round = angles.map((angle) => wrapDegrees(angle - angles[0]));
  return Math.max(...round) - Math.min(...round);
}

/** How the sound sits with the kick, note by note. */
export function Lock() {
  const document = useDocument();
  const { shown, look, lookOf, roses, fit } = useSounding();
  const [chosen, setChosen] = useState<number | null>(null);
  const [drawn, setDrawn] = useState<string | null>(null);
  useEffect(lookAtLockFirst, []);
  const { lock } = document;
  const notes = look?.notes ?? NO_NOTES;
  const meeting = useMemo(() => notes.map((note, index) => ({ note, index })).filter(({ note }) => isLock(note.lock) || note.lock.reason !== NOT_MET), [notes]);
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
  const from = lookOf?.lock ?? lock;
  const since = lock.turnDeg - from.turnDeg;
  const turnTo = (turnDeg: number, group: string | null = null) => { edit('turn', (draft) => { draft.lock.turnDeg = Math.round(wrapDegrees(turnDeg) * 10) / 10; }, group); };
  const bearings = meeting.flatMap(({ note }) => (isLock(note.lock) && note.lock.bearingDeg !== null ? [note.lock.bearingDeg] : []));
  const spread = spreadOf(bearings);
  const free = runsFree(document);
  const oneWave = document.kick.on && document.kick.shared;
  const passSpread = index === null || !shown ? null : spreadOf(shown.bearings[index] ?? []);
  const step = useCallback((by: number) => { setChosen(meeting[(at + by + meeting.length) % meeting.length].index); }, [meeting, at]);
  const after = fit?.proposals.find(({ id }) => id === drawn)?.low ?? null;

  return (
    <Box sx={{ display: 'grid', gap: '10px' }} aria-busy={look !== null && roses === null} data-station="lock">
      <Overlay
        present={present} after={after} onStep={meeting.length < 2 ? null : step}
        empty={!look ? 'Rendering the loop.' : document.line.notes.length === 0 ? 'The line is empty: draw a note at the Line station.' : !document.kick.on || document.kick.hits.length === 0 ? 'There is no kick: set its beats at the Ground station.' : 'No note of the line meets the kick for a whole period.'}
      />
      <Columns of="minmax(0, 3fr) minmax(0, 4fr)">
        <Panel title="Phase bearing" aside={free ? 'its phase runs free' : 'drag to turn the bass'}>
          <Rose
            rose={rose} measuredDeg={measured?.bearingDeg ?? null} since={since} bestTurnDeg={best?.turnDeg ?? null}
            reason={!look ? 'measuring' : !present ? 'no note meets the kick' : !isLock(present.lock) ? present.lock.reason : measured?.reason ?? (rose ? null : 'turning the bass round')}
            onTurn={(by) => {
              // The note that is looked at stays while it is turned, though another may be the worst by then.
              setChosen(index);
              turnTo(lock.turnDeg + by, 'turn');
            }}
          />
          <ParameterRow path={['lock', 'turnDeg']} linkRoom={false} labelWidth={52} />
          <ParameterRow path={['lock', 'nudgeMs']} linkRoom={false} labelWidth={52} disabled={oneWave} />
          {oneWave && <Box sx={{ fontSize: 12.5, color: sea.ink2 }}>With one oscillator for both the bass stands where the kick does: nothing is nudged.</Box>}
        </Panel>
        <Box sx={{ display: 'grid', gap: '10px' }}>
          <Standing present={present} measured={measured} rose={rose} best={best} common={common} spread={spread} passSpread={passSpread} free={free} from={from} inverted={lock.invert} written={lock.turnDeg === 0 && lock.nudgeMs === 0 && !lock.invert && lock.turns.length === 0} severalBearings={bearings.length > 1} tried={fit?.tried ?? null} />
          <Further meeting={meeting} chosen={index} onChoose={setChosen} drawn={drawn} onDraw={setDrawn} />
        </Box>
      </Columns>
    </Box>
  );
}
