import { BEATS_PER_BAR, bestTurnFor, noteName, parameter, signed, TICKS_PER_BEAT, wrapDegrees, type NoteLevels } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { memo, useMemo } from 'react';
import { ValueField } from '../../controls/ValueField';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { whole } from './words';

const place = (tick: number) => `${Math.floor(tick / (TICKS_PER_BEAT * BEATS_PER_BAR)) + 1}.${(Math.floor(tick / TICKS_PER_BEAT) % BEATS_PER_BAR) + 1}${tick % TICKS_PER_BEAT === 0 ? '' : `.${Math.floor((tick % TICKS_PER_BEAT) / (TICKS_PER_BEAT / 4)) + 1}`}`;

interface NotesTableProps { readonly meeting: readonly { readonly note: NoteLevels; readonly index: number }[]; readonly chosen: number | null; readonly onChoose: (index: number) => void }

/** The notes that meet a kick, each with how it stands; and the start phase of each pitch. */
export const NotesTable = memo(function NotesTable({ meeting, chosen, onChoose }: NotesTableProps) {
  const roses = useSounding((state) => state.roses);
  const turns = useSound((sound) => sound.lock.turns);
  const a4Hz = useSound((sound) => sound.ground.a4Hz);
  const pitches = useMemo(() => [...new Set(meeting.filter(({ note }) => !note.note.tie).map(({ note }) => note.note.pitch))].sort((a, b) => a - b), [meeting]);
  const best = useMemo(() => new Map(pitches.map((pitch) => [pitch, bestTurnFor(meeting.flatMap(({ note, index }) => {
    const rose = roses?.[index];
    return rose && note.note.pitch === pitch && !note.note.tie ? [rose] : [];
  }))])), [pitches, meeting, roses]);
  const set = (pitch: number, turnDeg: number) => {
    edit(`turn of ${noteName(pitch)}`, (draft) => {
      const rest = draft.lock.turns.filter((turn) => turn.pitch !== pitch);
      draft.lock.turns = Math.round(turnDeg) === 0 ? rest : [...rest, { pitch, turnDeg: Math.round(wrapDegrees(turnDeg)) }].sort((a, b) => a.pitch - b.pitch);
    }, `turn of ${pitch}`);
  };
  const own = (pitch: number) => turns.find((turn) => turn.pitch === pitch)?.turnDeg ?? 0;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1.2fr) minmax(0, 1fr)', gap: '12px' }}>
      <Box sx={{ maxHeight: 205, overflow: 'auto' }}>
        <Box component="table" aria-label="Notes that meet the kick" sx={{ width: '100%', borderCollapse: 'collapse', fontSize: 13, '& th': { textAlign: 'right', fontWeight: 500, color: sea.ink2, fontSize: 12.5, position: 'sticky', top: 0, bgcolor: sea.sheet }, '& td': { textAlign: 'right', borderTop: `1px solid ${sea.hair}`, height: 23 }, '& th:first-of-type, & td:first-of-type': { textAlign: 'left' } }}>
          <thead><tr><th>note</th><th>sum gain</th><th>best</th><th>bearing</th><th>overlap</th></tr></thead>
          <tbody>
            {meeting.map(({ note: { note, lock, overlap }, index }) => {
              const measured = 'sumGainDb' in lock ? lock : null;
              return (
                <Box component="tr" key={index} aria-selected={index === chosen} onClick={() => { onChoose(index); }} sx={{ cursor: 'pointer', bgcolor: index === chosen ? sea.tint1 : undefined }}>
                  <td><Button size="small" sx={{ p: 0, minWidth: 0, fontWeight: 500 }} aria-label={`Look at ${noteName(note.pitch)} at ${place(note.tick)}`}>{noteName(note.pitch)}</Button> <Box component="span" sx={{ color: sea.ink2, fontSize: 12 }}>{place(note.tick)}{note.tie ? ' tied' : ''}</Box></td>
                  <td>{measured ? `${signed(measured.sumGainDb)} dB` : 'reason' in lock ? lock.reason : ''}</td>
                  <td>{measured ? signed(measured.bestSumGainDb) : ''}</td>
                  <td>{measured ? (measured.bearingDeg === null ? 'none' : `${whole(measured.bearingDeg)}°`) : ''}</td>
                  <td>{overlap === null ? '' : `${Math.round(100 * overlap)} %`}</td>
                </Box>
              );
            })}
          </tbody>
        </Box>
      </Box>
      <Box role="group" aria-label="Start phase of each pitch" sx={{ maxHeight: 205, overflow: 'auto', fontSize: 13 }}>
        <Box sx={{ color: sea.ink2, fontSize: 12.5, mb: '2px' }}>A start phase for each pitch</Box>
        {pitches.length === 0 && <Box sx={{ color: sea.ink2 }}>Only tied notes meet the kick: they keep running on the phase of the note before.</Box>}
        {pitches.map((pitch) => {
          const turn = best.get(pitch);
          const worth = turn && Math.abs(turn.turnDeg) >= 1;
          return (
            <Box key={pitch} sx={{ display: 'flex', alignItems: 'center', gap: 1, height: 27 }}>
              <Box sx={{ width: 34, fontWeight: 500 }}>{noteName(pitch)}</Box>
              <ValueField row={parameter('lock.turns.*.turnDeg')} label={`Turn of ${noteName(pitch)}`} value={own(pitch)} a4Hz={a4Hz} width={56} onChange={(value) => { set(pitch, value); }} />
              <Button size="small" variant="outlined" disabled={!worth} aria-label={`Best for ${noteName(pitch)}`} sx={{ whiteSpace: 'nowrap', flex: 'none', minWidth: 0 }} onClick={() => { if (turn) set(pitch, own(pitch) + turn.turnDeg); }}>{worth ? `${signed(turn.turnDeg, 0)}°: ${signed(turn.worstSumGainDb)} dB` : turn ? 'turned best' : 'no rose'}</Button>
            </Box>
          );
        })}
        {meeting.some(({ note }) => note.note.tie) && <Box sx={{ color: sea.ink2, fontSize: 12.5, mt: '4px' }}>Tied notes have no start of their own; they keep the phase they come with.</Box>}
      </Box>
    </Box>
  );
});
