import { shownGainDb, signed, wrapDegrees, type LockSettings } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { memo } from 'react';
import { Panel } from '../../controls/Panel';
import { Reading } from '../../controls/Sounding';
import { applyProposal, useStillFor } from '../../sounding/proposals';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import type { HitStanding } from './hit-standing';
import { turnTo } from './turn-to';
import {
  actionWords,
  heldWords,
  LEAST_TURN_DEG,
  lineTurnWords,
  presentWords,
  proposalWords,
  turnWords,
  wholeDegrees,
} from './words';

/** Other changes of the whole line, each with what its worst note then has. */
const ACTIONS = [
  { id: 'nudge', label: 'Nudge' },
  { id: 'invert', label: 'Polarity' },
  { id: 'retune', label: 'Tune the kick' },
  { id: 'line', label: 'Move the line' },
] as const;

/** Whether the bass stands as it is written, neither turned nor moved. */
const isAsWritten = ({ turnDeg, nudgeMs, invert, turns }: LockSettings) =>
  turnDeg === 0 && nudgeMs === 0 && !invert && turns.length === 0;

const none = (value: number | null | undefined, write: (value: number) => string) =>
  value == null ? '–' : write(value);

/**
 * How one hit and the note that it meets stand to each other, in numbers, and what turns, moves or inverts
 * it. Rendered again only when it is measured again: the rose may be dragged meanwhile.
 */
export const Standing = memo(function Standing({ standing }: { readonly standing: HitStanding }) {
  const { present, measured, rose, best, common, spread, passSpread, free, from, tried } = standing;
  const of = useSounding((state) => state.of);
  const stands = useStillFor(of);
  const inverted = useSound(({ lock }) => lock.invert);
  const written = useSound(({ lock }) => isAsWritten(lock));
  const gain = measured && shownGainDb(measured);
  const several = spread !== null;
  const held = present && heldWords(present);
  const turnWorth = best !== null && measured?.bearingDeg != null && Math.abs(best.turnDeg) >= LEAST_TURN_DEG;
  return (
    <Panel
      title="Where it stands"
      aside={
        <>
          {present && <span>{presentWords(present)}</span>}
          <Button
            variant="outlined"
            disabled={written}
            onClick={() => {
              edit('as written', (draft) => {
                Object.assign(draft.lock, { turnDeg: 0, nudgeMs: 0, invert: false, turns: [] });
              });
            }}
          >
            Reset
          </Button>
        </>
      }
    >
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: '2px 8px' }}>
        <Reading label="sum gain" value={none(gain, signed)} unit="dB" />
        <Reading
          label="best bearing"
          value={
            measured?.bearingDeg == null || !best
              ? '–'
              : wholeDegrees(wrapDegrees(measured.bearingDeg + best.turnDeg))
          }
          unit="°"
        />
        <Reading
          label="gain to win"
          value={best && gain !== null ? signed(Math.max(0, best.worstSumGainDb - gain)) : '–'}
          unit="dB"
        />
        <Reading label="coherence" value={none(measured?.coherence, (value) => value.toFixed(2))} />
        <Reading label="bearing now" value={none(measured?.bearingDeg, wholeDegrees)} unit="°" />
        <Reading
          label={passSpread === null ? 'spread over hits' : 'over hits · passes'}
          value={`${none(spread, wholeDegrees)}${passSpread === null ? '' : ` · ${wholeDegrees(passSpread)}`}`}
          unit="°"
        />
        <Reading
          label="nudge instead"
          value={none(measured?.nudgeMs, (value) => signed(value, 2))}
          unit="ms"
        />
        <Reading
          label="overlap"
          value={none(present?.meeting.overlap, (value) => Math.round(100 * value).toString())}
          unit="%"
        />
      </Box>
      {held !== null && <Box sx={{ fontSize: TYPE.control, color: sea.ink2, mt: '2px' }}>{held}</Box>}
      <Box sx={{ display: 'flex', gap: '6px', mt: '6px', flexWrap: 'wrap' }}>
        <Button
          variant="contained"
          disabled={!turnWorth || free}
          onClick={() => {
            turnTo(from.turnDeg + best!.turnDeg);
          }}
        >
          {turnWords(measured, rose, best)}
        </Button>
        <Button
          variant="outlined"
          disabled={common === null || free || !several || Math.abs(common.turnDeg) < LEAST_TURN_DEG}
          onClick={() => {
            turnTo(from.turnDeg + common!.turnDeg);
          }}
        >
          {lineTurnWords(several ? common : null)}
        </Button>
        {ACTIONS.map(({ id, label }) => {
          const found = tried?.find((each) => each.id === id);
          return (
            <Button
              key={id}
              variant="outlined"
              disabled={!found || !stands}
              aria-pressed={id === 'invert' ? inverted : undefined}
              title={found && proposalWords(found)}
              onClick={() => {
                if (found) applyProposal(found, of);
              }}
            >
              {found ? actionWords(label, found) : label}
            </Button>
          );
        })}
      </Box>
    </Panel>
  );
});
