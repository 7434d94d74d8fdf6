import { FIGURES, type Mend } from '@abyssal/core';
import { Box, Button, LinearProgress } from '@mui/material';
import { useHearing } from '../../audio/hear-change';
import { changedWords } from '../../controls/figure-text';
import { ToldText, VERDICTS } from '../../controls/Mark';
import { Panel } from '../../controls/Panel';
import { mendAll, stopMending, stopSearch, useMends } from '../../sounding/mends-store';
import { applyProposal, toggleHearing, useStillFor } from '../../sounding/proposals';
import { useSounding } from '../../sounding/sounding-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';

function Offer({ mend, onLook }: { readonly mend: Mend; readonly onLook: (mend: Mend | null) => void }) {
  const hearing = useHearing();
  const heard = hearing.name === mend.title;
  const of = useMends((state) => state.of);
  const stands = useStillFor(of);
  const { mark, colour } = VERDICTS[mend.gains.after.verdict];
  return (
    <Box
      component="li"
      data-mend={mend.id}
      onMouseEnter={() => {
        onLook(mend);
      }}
      onMouseLeave={() => {
        onLook(null);
      }}
      onFocus={() => {
        onLook(mend);
      }}
      onBlur={() => {
        onLook(null);
      }}
      sx={{
        listStyle: 'none',
        display: 'flex',
        alignItems: 'center',
        gap: '8px',
        borderTop: `1px solid ${sea.hair}`,
        py: '4px',
        fontSize: TYPE.control,
      }}
    >
      <Box sx={{ flex: 1, minWidth: 0, lineHeight: 1.35 }}>
        <Box sx={{ fontWeight: 500 }}>{mend.title}</Box>
        <Box sx={{ color: sea.ink2 }}>
          <Box component="span" sx={{ color: colour }} aria-hidden>
            {mark}
          </Box>{' '}
          {changedWords(mend.gains)}
          {mend.harms.length > 0 && (
            <Box component="span" sx={{ color: sea.watch }}>
              {' · harms '}
              {mend.harms.map(changedWords).join(', ')}
            </Box>
          )}
        </Box>
      </Box>
      <Button
        size="small"
        variant="outlined"
        disabled={!stands && !heard}
        onClick={() => {
          toggleHearing(mend);
        }}
      >
        {heard ? `Stop (${hearing.now})` : 'Hear it'}
      </Button>
      <Button
        size="small"
        variant="contained"
        disabled={!stands}
        onClick={() => {
          applyProposal(mend, of);
        }}
      >
        Apply
      </Button>
    </Box>
  );
}

/** What may be done about what does not hold: each rendered and measured before it stands here. */
export function MendPanel({ onLook }: { readonly onLook: (mend: Mend | null) => void }) {
  const { found, done, mending, left } = useMends();
  const measured = useSounding(({ report }) => report !== null);
  const short = [...(found?.unmended ?? [])];
  return (
    <Panel
      title="What would mend it"
      aside={
        mending !== null ? (
          <Button size="small" onClick={stopMending}>
            Leave off mending
          </Button>
        ) : (
          <>
            {done !== null && (
              <Button size="small" onClick={stopSearch}>
                Leave off
              </Button>
            )}
            <Button
              size="small"
              variant="outlined"
              disabled={!measured}
              onClick={() => {
                void mendAll();
              }}
            >
              Mend what falls short
            </Button>
          </>
        )
      }
    >
      {(mending ?? done) !== null && (
        <LinearProgress
          variant="determinate"
          value={100 * (mending ?? done ?? 0)}
          aria-label={mending !== null ? 'Mending' : 'Looking for mends'}
          sx={{ mb: '4px' }}
        />
      )}
      {found?.mends.length === 0 && short.length === 0 && done === null && (
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2 }}>Nothing to mend: every figure holds.</Box>
      )}
      <Box component="ul" aria-label="Mends" sx={{ m: 0, p: 0 }}>
        {found?.mends.map((mend) => (
          <Offer key={mend.id} mend={mend} onLook={onLook} />
        ))}
      </Box>
      {short.map(({ id, against }) => (
        <ToldText key={id}>
          {FIGURES[id].label}: {against}
        </ToldText>
      ))}
      {left && left.length > 0 && (
        <Box sx={{ mt: '6px' }}>
          <Box sx={{ fontSize: TYPE.control, fontWeight: 500 }}>What mending could not do</Box>
          {left.map((words) => (
            <ToldText key={words}>{words}</ToldText>
          ))}
        </Box>
      )}
    </Panel>
  );
}
