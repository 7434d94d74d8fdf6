import { isLock } from '@abyssal/core';
import { Box, Button, LinearProgress } from '@mui/material';
import { memo } from 'react';
import { useHearing } from '../../audio/hear-change';
import { ToldText } from '../../controls/Mark';
import { applyProposal, toggleHearing, useStillFor } from '../../sounding/proposals';
import type { ShownProposal } from '../../sounding/told';
import { useSounding } from '../../sounding/sounding-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { NUMERALS } from '../../theme/theme';
import { costWords, gainNumeral } from './words';

function Offer({
  proposal,
  shown,
  onShow,
}: {
  readonly proposal: ShownProposal;
  readonly shown: boolean;
  readonly onShow: () => void;
}) {
  const hearing = useHearing();
  const heard = hearing.name === proposal.title;
  const of = useSounding((state) => state.of);
  const stands = useStillFor(of);
  const { says, after } = proposal;
  return (
    <Box component="li" sx={{ listStyle: 'none', borderTop: `1px solid ${sea.hair}`, py: '6px' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: '4px' }}>
        <Box sx={{ whiteSpace: 'nowrap', flex: 1 }}>
          <Box
            component="span"
            sx={{ fontFamily: NUMERALS, fontStyle: 'italic', fontSize: TYPE.reading, lineHeight: 1.1 }}
          >
            {gainNumeral(proposal)}
          </Box>
          {after.worstSumGainDb !== null && (
            <Box component="span" sx={{ fontSize: TYPE.mark, color: sea.ink2, ml: '3px' }}>
              dB
            </Box>
          )}
        </Box>
        <Button
          size="small"
          variant="outlined"
          aria-pressed={shown}
          aria-label={`Show on the overlay: ${proposal.title}`}
          onClick={onShow}
        >
          {shown ? 'Hide' : 'Show'}
        </Button>
        <Button
          size="small"
          variant="outlined"
          disabled={!stands && !heard}
          aria-label={`Hear it: ${proposal.title}`}
          onClick={() => {
            toggleHearing(proposal);
          }}
        >
          {heard ? 'Stop' : 'Hear it'}
        </Button>
        <Button
          size="small"
          variant="contained"
          disabled={!stands}
          aria-label={`Apply: ${proposal.title}`}
          onClick={() => {
            applyProposal(proposal, of);
          }}
        >
          Apply
        </Button>
      </Box>
      <Box sx={{ fontSize: TYPE.body, fontWeight: 500, lineHeight: 1.25 }}>
        {proposal.title}: {says}.
      </Box>
      <Box sx={{ fontSize: TYPE.note, color: sea.ink2, lineHeight: 1.3 }}>
        {costWords(proposal)}
        {heard ? ` You hear it ${hearing.now}.` : ''}
      </Box>
    </Box>
  );
}

/** What may be done so that kick and bass agree, best first, as it is found. */
export const AdvicePanel = memo(function AdvicePanel({
  drawn,
  onDraw,
}: {
  readonly drawn: string | null;
  readonly onDraw: (id: string | null) => void;
}) {
  const fit = useSounding((state) => state.fit);
  const done = useSounding((state) => state.fitDone);
  const meets = useSounding(
    (state) => state.shown?.notes.some(({ lock, meetings }) => meetings.length > 0 || isLock(lock)) ?? true,
  );
  if (!meets)
    return (
      <Box sx={{ fontSize: TYPE.control, color: sea.ink2, borderTop: `1px solid ${sea.hair}`, pt: '6px' }}>
        No kick lands on a note of the line, so there is nothing to fit.
      </Box>
    );
  const ended = fit !== null && done >= 1;
  return (
    <>
      {fit && (
        <Box
          role="status"
          sx={{
            fontSize: TYPE.label,
            lineHeight: 1.35,
            color: fit.before.verdict === 'holds' ? sea.ink2 : sea.ink,
            mb: '4px',
          }}
        >
          {fit.why}
        </Box>
      )}
      {fit?.against && <ToldText>{fit.against}</ToldText>}
      {!ended && (
        <Box
          sx={{
            fontSize: TYPE.note,
            color: sea.ink2,
            display: 'grid',
            gridTemplateColumns: 'auto minmax(0, 1fr)',
            alignItems: 'center',
            gap: 1,
          }}
        >
          <span role="status">Proposals are being rendered and measured.</span>
          <LinearProgress variant="determinate" value={100 * done} aria-label="Proposals measured" />
        </Box>
      )}
      <Box component="ul" aria-label="Proposals" sx={{ m: 0, p: 0 }}>
        {fit?.proposals.map((proposal) => (
          <Offer
            key={proposal.id}
            proposal={proposal}
            shown={drawn === proposal.id}
            onShow={() => {
              onDraw(drawn === proposal.id ? null : proposal.id);
            }}
          />
        ))}
      </Box>
      {ended && fit.proposals.length === 0 && !fit.against && fit.before.verdict !== 'holds' && (
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2 }}>None of the changes tried makes it better.</Box>
      )}
    </>
  );
});
