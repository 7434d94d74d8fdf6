import { NOT_MET, signed } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { memo } from 'react';
import { useHearing } from '../../audio/hear-change';
import { applyProposal, toggleHearing } from '../../sounding/proposals';
import type { ShownFit, ShownProposal } from '../../sounding/protocol';
import { useSounding } from '../../sounding/sounding-store';
import { sea } from '../../theme/sea';
import { NUMERALS } from '../../theme/theme';
import { standing } from './words';

function Offer({ proposal, shown, onShow }: { readonly proposal: ShownProposal; readonly shown: boolean; readonly onShow: () => void }) {
  const hearing = useHearing();
  const heard = hearing.name === proposal.title;
  return (
    <Box component="li" sx={{ listStyle: 'none', borderTop: `1px solid ${sea.hair}`, py: '6px', display: 'grid', gridTemplateColumns: '64px minmax(0, 1fr) auto', columnGap: '10px', alignItems: 'start' }}>
      <Box sx={{ whiteSpace: 'nowrap', textAlign: 'right' }}><Box component="span" sx={{ fontFamily: NUMERALS, fontStyle: 'italic', fontSize: 21, lineHeight: 1.1 }}>{signed(proposal.gainDb)}</Box> <Box component="span" sx={{ fontSize: 12, color: sea.ink2 }}>dB</Box></Box>
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ fontSize: 14, fontWeight: 500, lineHeight: 1.25 }}>{proposal.title}</Box>
        <Box sx={{ fontSize: 12.5, color: sea.ink2, lineHeight: 1.3 }}>{standing(proposal.after)}{proposal.costText ? `; ${proposal.costText}` : ''}{heard ? ` — ${hearing.now} is heard` : ''}</Box>
      </Box>
      <Box sx={{ display: 'flex', gap: '4px' }}>
        <Button size="small" variant="outlined" aria-pressed={shown} aria-label={`Draw over: ${proposal.title}`} onClick={onShow}>{shown ? 'Drawn' : 'Draw'}</Button>
        <Button size="small" variant="outlined" aria-label={`Hear it: ${proposal.title}`} onClick={() => { toggleHearing(proposal); }}>{heard ? 'Enough' : 'Hear it'}</Button>
        <Button size="small" variant="contained" aria-label={`Apply: ${proposal.title}`} onClick={() => { applyProposal(proposal); }}>Apply</Button>
      </Box>
    </Box>
  );
}

/** What may be done so that kick and bass agree, best first. */
export const AdvicePanel = memo(function AdvicePanel({ drawn, onDraw }: { readonly drawn: string | null; readonly onDraw: (id: string | null) => void }) {
  const fit: ShownFit | null = useSounding((state) => state.fit);
  const meets = useSounding((state) => state.shown?.notes.some(({ lock }) => !('reason' in lock) || lock.reason !== NOT_MET) ?? true);
  const tail = useSounding((state) => state.shown?.kick.tail);
  const lost = fit?.before.withoutPhase ?? 0;
  const why = tail === null ? 'the kick has no tail with a pitch: it is too short' : tail && !tail.steady ? 'the kick’s tail never stands still' : 'their pitch is not that of the tail, or the kick is still falling';
  const unlockable = lost === 0 ? null : `${lost === 1 ? 'One note has' : `${lost} notes have`} no common phase with the kick, so no turn can lock ${lost === 1 ? 'it' : 'them'}: ${why}. Ducking keeps them apart.`;
  if (!fit) return <Box role="status" sx={{ fontSize: 13, color: sea.ink2, borderTop: `1px solid ${sea.hair}`, pt: '6px' }}>{meets ? 'Every proposal is being rendered and measured.' : 'No note of the line meets the kick: there is nothing to fit.'}</Box>;
  if (fit.proposals.length === 0) return <Box sx={{ fontSize: 13, color: sea.ink2, borderTop: `1px solid ${sea.hair}`, pt: '6px' }}>{fit.before.meeting === 0 ? 'No note of the line meets the kick: there is nothing to fit.' : fit.before.worstSumGainDb === null ? `Kick and bass cannot cancel: ${fit.before.oneWave > 0 ? 'they are one wave' : 'they are kept apart'}.` : `Nothing that is offered makes it better: ${standing(fit.before)}.`}</Box>;
  return (
    <>
      {unlockable !== null && <Box role="status" sx={{ fontSize: 13, color: sea.watch, mb: '4px' }}>◐ {unlockable}</Box>}
      <Box component="ul" aria-label="Proposals" sx={{ m: 0, p: 0 }}>
        {fit.proposals.map((proposal) => <Offer key={proposal.id} proposal={proposal} shown={drawn === proposal.id} onShow={() => { onDraw(drawn === proposal.id ? null : proposal.id); }} />)}
      </Box>
    </>
  );
});
