import {
  bestTurnsByPitch,
  isLock,
  NO_LOCK_WORDS,
  noPhaseWords,
  noteName,
  parameter,
  shownGainDb,
  signed,
  wrapDegrees,
  type Lock,
  type NoLock,
  type Turn,
} from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { Fragment, memo, useMemo, useState } from 'react';
import { ValueField } from '../../controls/ValueField';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { hitTick, type Met } from './met';
import { placeWords, wholeDegrees } from './words';

interface NotesTableProps {
  readonly met: readonly Met[];
  readonly chosen: Met | null;
  readonly onChoose: (index: number, place: number) => void;
}

interface CellsProps {
  readonly lock: Lock | NoLock;
  readonly overlap: number | null;
  readonly bearing: string;
  readonly a4Hz: number;
}

/** What a row says of a lock. */
function Cells({ lock, overlap, bearing, a4Hz }: CellsProps) {
  const measured = isLock(lock) ? lock : null;
  const gain = shownGainDb(lock);
  const why = measured?.noPhase
    ? noPhaseWords(measured.noPhase, a4Hz)
    : isLock(lock)
      ? ''
      : NO_LOCK_WORDS[lock.reason];
  return (
    <>
      <td title={why || undefined} style={{ whiteSpace: 'nowrap' }}>
        {gain !== null ? `${signed(gain)} dB` : (measured?.noPhase?.cause ?? why)}
      </td>
      <td>{gain !== null && measured ? signed(measured.bestSumGainDb) : ''}</td>
      <td>{bearing}</td>
      <td>{overlap === null ? '' : `${Math.round(100 * overlap)} %`}</td>
    </>
  );
}

const bearingWords = (lock: Lock | NoLock) =>
  isLock(lock) ? (lock.bearingDeg === null ? 'none' : `${wholeDegrees(lock.bearingDeg)}°`) : '';

/**
 * The notes that meet the kick, a row each by its worst hit, which opens to all of them; and the start phase
 * of each pitch.
 */
export const NotesTable = memo(function NotesTable({ met, chosen, onChoose }: NotesTableProps) {
  const notes = useSounding((state) => state.look?.notes);
  const roses = useSounding((state) => state.roses);
  const of = useSounding((state) => state.lookOf);
  const turns = useSound((sound) => sound.lock.turns);
  const a4Hz = useSound((sound) => sound.ground.a4Hz);
  const [open, setOpen] = useState<ReadonlySet<number>>(new Set());
  const rows = useMemo(() => met.filter(({ place, note }) => place === note.worst), [met]);
  const best = useMemo(
    () => (notes && roses ? bestTurnsByPitch(notes, roses) : new Map<number, Turn>()),
    [notes, roses],
  );
  const pitches = useMemo(
    () =>
      [
        ...new Set(met.flatMap(({ meeting: { phasePitch } }) => (phasePitch === null ? [] : [phasePitch]))),
      ].sort((a, b) => a - b),
    [met],
  );
  const set = (pitch: number, turnDeg: number) => {
    edit(
      `turn of ${noteName(pitch)}`,
      (draft) => {
        const rest = draft.lock.turns.filter((turn) => turn.pitch !== pitch);
        draft.lock.turns =
          Math.round(turnDeg) === 0
            ? rest
            : [...rest, { pitch, turnDeg: Math.round(wrapDegrees(turnDeg)) }].sort(
                (a, b) => a.pitch - b.pitch,
              );
      },
      `turn of ${pitch}`,
    );
  };
  const own = (pitch: number) => turns.find((turn) => turn.pitch === pitch)?.turnDeg ?? 0;
  const toggle = (index: number) => {
    setOpen((now) => {
      const next = new Set(now);
      if (!next.delete(index)) next.add(index);
      return next;
    });
  };
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'repeat(auto-fit, minmax(min(100%, 235px), 1fr))',
        gap: '12px',
      }}
    >
      <Box sx={{ maxHeight: 205, overflow: 'auto' }}>
        <Box
          component="table"
          aria-label="Notes under the kick"
          sx={{
            width: '100%',
            borderCollapse: 'collapse',
            fontSize: TYPE.control,
            '& th': {
              textAlign: 'right',
              fontWeight: 500,
              color: sea.ink2,
              fontSize: TYPE.note,
              position: 'sticky',
              top: 0,
              bgcolor: sea.sheet,
              zIndex: 1,
            },
            '& td': { textAlign: 'right', borderTop: `1px solid ${sea.hair}`, height: 24 },
            '& th:first-of-type, & td:first-of-type': { textAlign: 'left' },
          }}
        >
          <thead>
            <tr>
              <th>note</th>
              <th>sum gain</th>
              <th>best</th>
              <th>bearing</th>
              <th>overlap</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ note: { note, meetings, lock, overlap, spreadDeg, worst }, index }) => {
              const several = meetings.length > 1;
              const opened = several && open.has(index);
              return (
                <Fragment key={index}>
                  <Box
                    component="tr"
                    aria-selected={chosen?.index === index && !opened}
                    onClick={() => {
                      onChoose(index, worst);
                    }}
                    sx={{
                      cursor: 'pointer',
                      bgcolor: chosen?.index === index && !opened ? sea.tint1 : undefined,
                    }}
                  >
                    <td>
                      {several && (
                        <Button
                          size="small"
                          aria-expanded={opened}
                          aria-label={`The ${meetings.length} hits of ${noteName(note.pitch)} at ${placeWords(note.tick)}`}
                          onClick={(event) => {
                            event.stopPropagation();
                            toggle(index);
                          }}
                          sx={{ p: 0, minWidth: 24, height: 24 }}
                        >
                          {opened ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
                        </Button>
                      )}
                      <Button
                        size="small"
                        sx={{ p: 0, minWidth: 24, height: 24, fontWeight: 500, ml: several ? 0 : '24px' }}
                        aria-label={`Look at ${noteName(note.pitch)} at ${placeWords(note.tick)}`}
                      >
                        {noteName(note.pitch)}
                      </Button>{' '}
                      <Box component="span" sx={{ color: sea.ink2, fontSize: TYPE.mark }}>
                        {placeWords(note.tick)}
                        {note.tie ? ' tied' : ''}
                        {several ? `, ${meetings.length} hits` : ''}
                      </Box>
                    </td>
                    <Cells
                      lock={lock}
                      overlap={overlap}
                      a4Hz={a4Hz}
                      bearing={
                        several && spreadDeg !== null
                          ? `±${wholeDegrees(spreadDeg / 2)}°`
                          : bearingWords(lock)
                      }
                    />
                  </Box>
                  {opened &&
                    meetings.map((meeting, place) => {
                      const looked = chosen?.index === index && chosen.place === place;
                      const at = of ? placeWords(hitTick(of, meeting)) : '';
                      return (
                        <Box
                          component="tr"
                          key={`${meeting.hit} ${meeting.from}`}
                          aria-selected={looked}
                          onClick={() => {
                            onChoose(index, place);
                          }}
                          sx={{
                            cursor: 'pointer',
                            bgcolor: looked ? sea.tint1 : undefined,
                            '& td': { color: sea.ink2 },
                          }}
                        >
                          <td>
                            <Button
                              size="small"
                              sx={{
                                p: 0,
                                minWidth: 24,
                                height: 24,
                                ml: '34px',
                                color: 'inherit',
                                whiteSpace: 'nowrap',
                              }}
                              aria-label={`Look at hit ${at} of ${noteName(note.pitch)}`}
                            >
                              hit {at}
                            </Button>
                          </td>
                          <Cells
                            lock={meeting.lock}
                            overlap={meeting.overlap}
                            a4Hz={a4Hz}
                            bearing={bearingWords(meeting.lock)}
                          />
                        </Box>
                      );
                    })}
                </Fragment>
              );
            })}
          </tbody>
        </Box>
      </Box>
      <Box
        role="group"
        aria-label="Start phase of each pitch"
        sx={{ maxHeight: 205, overflow: 'auto', fontSize: TYPE.control }}
      >
        <Box sx={{ color: sea.ink2, fontSize: TYPE.note, mb: '2px' }}>Start phase by note</Box>
        {pitches.length === 0 && (
          <Box sx={{ color: sea.ink2 }}>
            No note under the kick starts a phase of its own: all are tied in a circle.
          </Box>
        )}
        {pitches.map((pitch) => {
          const turn = best.get(pitch);
          const worth = turn && Math.abs(turn.turnDeg) >= 1;
          return (
            <Box key={pitch} sx={{ display: 'flex', alignItems: 'center', gap: 1, height: 27 }}>
              <Box sx={{ width: 34, fontWeight: 500 }}>{noteName(pitch)}</Box>
              <ValueField
                row={parameter('lock.turns.*.turnDeg')}
                label={`Turn of ${noteName(pitch)}`}
                value={own(pitch)}
                a4Hz={a4Hz}
                width={56}
                onChange={(value) => {
                  set(pitch, value);
                }}
              />
              <Button
                size="small"
                variant="outlined"
                disabled={!worth}
                aria-label={`Best for ${noteName(pitch)}`}
                sx={{ whiteSpace: 'nowrap', flex: 'none', minWidth: 0 }}
                onClick={() => {
                  if (turn) set(pitch, own(pitch) + turn.turnDeg);
                }}
              >
                {worth
                  ? `${signed(turn.turnDeg, 0)}°: ${signed(turn.worstSumGainDb)} dB`
                  : turn
                    ? 'already best'
                    : 'no rose'}
              </Button>
            </Box>
          );
        })}
        {met.some(
          ({ note, meeting }) => meeting.phasePitch !== null && meeting.phasePitch !== note.note.pitch,
        ) && (
          <Box sx={{ color: sea.ink2, fontSize: TYPE.note, mt: '4px' }}>
            A tied note keeps the phase it arrives with: it is turned with the note before.
          </Box>
        )}
      </Box>
    </Box>
  );
});
