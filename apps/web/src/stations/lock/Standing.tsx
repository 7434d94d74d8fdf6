import { noteName, roseGainDb, signed, wrapDegrees, type Lock as Measured, type LockSettings, type NoteLevels, type NoteRose, type Turn } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { memo } from 'react';
import { Panel } from '../../controls/Panel';
import { Sounding } from '../../controls/Sounding';
import { applyProposal } from '../../sounding/proposals';
import type { ShownFit } from '../../sounding/protocol';
import { edit } from '../../state/document-store';
import { standing, whole } from './words';

/** Turns under this are not worth a click. */
const LEAST_TURN_DEG = 0.5;

/** Other changes of the whole line, each with what its worst note then has. */
const ACTIONS = [{ id: 'nudge', label: 'Nudge' }, { id: 'invert', label: 'Polarity' }, { id: 'retune', label: 'Tune the kick' }, { id: 'line', label: 'Move the line' }] as const;

interface StandingProps {
  readonly present: NoteLevels | null;
  readonly measured: Measured | null;
  readonly rose: NoteRose | null;
  /** Best turn of this note, and of all. */
  readonly best: Turn | null;
  readonly common: Turn | null;
  readonly spread: number | null;
  readonly passSpread: number | null;
  readonly free: boolean;
  /** The settings that were measured: what is proposed counts from them. */
  readonly from: LockSettings;
  readonly inverted: boolean;
  /** Whether the bass stands as it is written, neither turned nor moved. */
  readonly written: boolean;
  readonly severalBearings: boolean;
  /** What was rendered of other changes; null until it is. */
  readonly tried: ShownFit['tried'] | null;
}

const none = (value: number | null | undefined, write: (value: number) => string) => (value == null ? '–' : write(value));
const turnTo = (turnDeg: number) => { edit('turn', (draft) => { draft.lock.turnDeg = Math.round(wrapDegrees(turnDeg) * 10) / 10; }); };

/** How one note stands to the kick, in numbers, and what turns, moves or inverts it. Rendered again only when it is measured again: the rose may be dragged meanwhile. */
export const Standing = memo(function Standing({ present, measured, rose, best, common, spread, passSpread, free, from, inverted, written, severalBearings, tried }: StandingProps) {
  const turnWorth = best !== null && measured?.bearingDeg != null && Math.abs(best.turnDeg) >= LEAST_TURN_DEG;
  return (
    <Panel title="Where it stands" aside={<>
      {present && <span>note {noteName(present.note.pitch)}{present.note.tie ? ', tied' : ''}</span>}
      <Button variant="outlined" disabled={written} onClick={() => { edit('as written', (draft) => { Object.assign(draft.lock, { turnDeg: 0, nudgeMs: 0, invert: false, turns: [] }); }); }}>As written</Button>
    </>}>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: '2px 8px' }}>
        <Sounding label="sum gain" value={none(measured?.sumGainDb, signed)} unit="dB" />
        <Sounding label="best bearing" value={measured?.bearingDeg == null || !best ? '–' : whole(wrapDegrees(measured.bearingDeg + best.turnDeg))} unit="°" />
        <Sounding label="gain to win" value={measured && best ? signed(Math.max(0, best.worstSumGainDb - measured.sumGainDb)) : '–'} unit="dB" />
        <Sounding label="coherence" value={none(measured?.coherence, (value) => value.toFixed(2))} />
        <Sounding label="bearing now" value={none(measured?.bearingDeg, whole)} unit="°" />
        <Sounding label={passSpread === null ? 'spread over notes' : 'over notes · passes'} value={`${none(spread, whole)}${passSpread === null ? '' : ` · ${whole(passSpread)}`}`} unit="°" />
        <Sounding label="nudge instead" value={none(measured?.nudgeMs, (value) => signed(value, 2))} unit="ms" />
        <Sounding label="overlap" value={none(present?.overlap, (value) => Math.round(100 * value).toString())} unit="%" />
      </Box>
      <Box sx={{ display: 'flex', gap: '6px', mt: '6px', flexWrap: 'wrap' }}>
        <Button variant="contained" disabled={!turnWorth || free} onClick={() => { turnTo(from.turnDeg + best!.turnDeg); }}>{turnWorth ? `Turn by ${signed(best.turnDeg, 0)}°: ${signed(roseGainDb(rose!, best.turnDeg))} dB` : measured?.bearingDeg == null || !best ? 'Turn' : 'Turned best'}</Button>
        <Button variant="outlined" disabled={common === null || free || !severalBearings || Math.abs(common.turnDeg) < LEAST_TURN_DEG} onClick={() => { turnTo(from.turnDeg + common!.turnDeg); }}>Best for the line{common && severalBearings ? ` ${signed(common.turnDeg, 0)}°: ${signed(common.worstSumGainDb)} dB` : ''}</Button>
        {ACTIONS.map(({ id, label }) => {
          const found = tried?.find((each) => each.id === id);
          return <Button key={id} variant="outlined" disabled={!found} aria-pressed={id === 'invert' ? inverted : undefined} title={found ? `${found.title}: ${standing(found.after)}${found.costText ? `; ${found.costText}` : ''}` : undefined} onClick={() => { if (found) applyProposal(found); }}>{label}{found ? `: ${found.after.worstSumGainDb === null ? standing(found.after) : `${signed(found.after.worstSumGainDb)} dB`}` : ''}{found?.cost === 'groove' ? ', felt' : ''}</Button>;
        })}
      </Box>
    </Panel>
  );
});
