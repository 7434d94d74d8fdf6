import { FIGURES, type JudgedFigure, type SoundDocument } from '@abyssal/core';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { memo, useEffect, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { useHearing } from '../audio/hear-change';
import { changedWords, figureText } from '../controls/figure-text';
import { ToldText, VERDICTS } from '../controls/Mark';
import { useMends } from '../sounding/mends-store';
import { applyProposal, toggleHearing, useStillFor } from '../sounding/proposals';
import { measureNow, stopMeasuring, useSounding } from '../sounding/sounding-store';
import { useSound } from '../state/document-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { NUMERALS } from '../theme/theme';

/** Lows that a proposal takes are told from here on. */
const TOLD_DB = 0.5;
/** Figures that take longer say how far they are. */
const LONG_MS = 10_000;

/**
 * What it is measured over, or why it cannot be told; and how far passes stand apart, where they do by more
 * than its number shows.
 */
function detailWords({ figure, detail, spread }: JudgedFigure): string {
  const of = figure.value === null ? figure.reason : detail;
  return spread !== null && spread > 0.05 ? `${of}; passes differ by ${spread.toFixed(1)}` : of;
}

/** Drawn anew only for another figure: what goes on around it while it is measured is not its own. */
const FigureRow = memo(function FigureRow({ figure }: { readonly figure: JudgedFigure }) {
  const { label, unit } = FIGURES[figure.id];
  const { margin } = figure;
  const { mark, words, colour } = VERDICTS[figure.verdict];
  return (
    <Box
      component="li"
      data-figure={figure.id}
      sx={{ borderTop: `1px solid ${sea.hair}`, py: '7px', listStyle: 'none' }}
    >
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Box sx={{ fontWeight: 500, fontSize: TYPE.body }}>{label}</Box>
        <Box sx={{ whiteSpace: 'nowrap' }}>
          <Box
            component="span"
            sx={{ fontFamily: NUMERALS, fontStyle: 'italic', fontSize: TYPE.figure, lineHeight: 1 }}
          >
            {figureText(figure)}
          </Box>{' '}
          <Box component="span" sx={{ fontSize: TYPE.mark, color: sea.ink2 }}>
            {unit}
          </Box>
        </Box>
      </Box>
      <Box sx={{ fontSize: TYPE.note, color: sea.ink2, lineHeight: 1.3 }}>{detailWords(figure)}</Box>
      <Box sx={{ fontSize: TYPE.control, fontWeight: 500, color: colour }}>
        <span aria-hidden>{mark}</span> {margin === null ? words : `${words}, ${margin}`}
      </Box>
    </Box>
  );
});

/** One change that is offered, to be heard and applied. */
function Offered({
  title,
  says,
  document,
  of,
}: {
  readonly title: string;
  readonly says: string;
  readonly document: SoundDocument;
  /** The state of the sound for which it was found. */
  readonly of: SoundDocument | null;
}) {
  const hearing = useHearing();
  const stands = useStillFor(of);
  const heard = hearing.name === title;
  return (
    <Box
      component="section"
      aria-label="Advice"
      sx={{ borderTop: `2px solid ${sea.note}`, mt: '6px', pt: '8px' }}
    >
      <Typography component="h2" sx={{ fontSize: TYPE.body, fontWeight: 600, color: sea.note }}>
        Advice
      </Typography>
      <Box sx={{ fontSize: TYPE.label, lineHeight: 1.35, my: '3px' }}>
        {title}:{' '}
        <Box component="span" sx={{ fontWeight: 500 }}>
          {says}
        </Box>
      </Box>
      <Box sx={{ display: 'flex', gap: '6px' }}>
        <Button
          size="small"
          variant="outlined"
          disabled={!stands && !heard}
          onClick={() => {
            toggleHearing({ title, document });
          }}
        >
          {heard ? `Stop (${hearing.now})` : 'Hear it'}
        </Button>
        <Button
          size="small"
          variant="contained"
          disabled={!stands}
          onClick={() => {
            applyProposal({ title, document }, of);
          }}
        >
          Apply
        </Button>
      </Box>
    </Box>
  );
}

/** The best that may be done about the lock, found by rendering it; where that is well, about what else does not hold. */
const Advice = memo(function Advice() {
  const fit = useSounding((state) => state.fit);
  const of = useSounding((state) => state.of);
  const mend = useMends(({ found }) => found?.mends[0] ?? null);
  const mendOf = useMends((state) => state.of);
  const best = fit?.proposals[0];
  if (best) {
    const lows =
      best.takes.lowsDb >= TOLD_DB ? ` The bass loses ${best.takes.lowsDb.toFixed(1)} dB of its lows.` : '';
    return <Offered title={best.title} says={`${best.says}.${lows}`} document={best.document} of={of} />;
  }
  if (!mend) return null;
  return (
    <Offered title={mend.title} says={`${changedWords(mend.gains)}.`} document={mend.document} of={mendOf} />
  );
});

/** What takes something away from the sound, one sentence each. */
const Warnings = memo(function Warnings() {
  const told = useSounding((state) => state.shown?.told);
  if (!told || told.length === 0) return null;
  return (
    <Box component="section" aria-label="Warnings" sx={{ borderTop: `1px solid ${sea.hair}`, pt: '7px' }}>
      <Typography component="h2" sx={{ fontSize: TYPE.body, fontWeight: 600 }}>
        Warnings
      </Typography>
      <Box component="ul" sx={{ m: 0, p: 0 }}>
        {told.map(({ place, text, verdict }) => (
          <Box component="li" key={place} sx={{ listStyle: 'none', my: '3px' }}>
            <ToldText verdict={verdict}>{text}</ToldText>
          </Box>
        ))}
      </Box>
    </Box>
  );
});

/** How far the figures of a sound are that takes long, and the way to stop. */
function Progress() {
  const { working, done, since } = useSounding(
    useShallow((state) => ({ working: state.working, done: state.done, since: state.since })),
  );
  const [long, setLong] = useState(false);
  useEffect(() => {
    setLong(false);
    if (!working) return undefined;
    const timer = setTimeout(() => {
      setLong(true);
    }, LONG_MS);
    return () => {
      clearTimeout(timer);
    };
  }, [working, since]);
  if (!working || !long) return null;
  const share = Math.round(100 * done);
  return (
    <Box sx={{ pb: '8px' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <Box role="status" sx={{ fontSize: TYPE.control }}>
          {share} % measured
        </Box>
        <Button size="small" aria-label="Stop measuring" onClick={stopMeasuring}>
          Stop
        </Button>
      </Box>
      <LinearProgress variant="determinate" value={share} aria-label="Share measured" />
    </Box>
  );
}

/** The figures always in view: only what is truly measured stands here. */
export function Figures() {
  const figures = useSounding(({ shown }) => shown?.figures ?? null);
  const working = useSounding((state) => state.working);
  const stopped = useSounding((state) => state.stopped);
  const failed = useSounding((state) => state.failed);
  const bars = useSound((sound) => sound.ground.bars);
  return (
    <Box component="section" aria-label="Figures" aria-busy={working} sx={{ p: '8px 14px' }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline', pb: '7px' }}>
        <Typography component="h2" sx={{ fontSize: TYPE.body, fontWeight: 600 }}>
          Figures
        </Typography>
        <Box sx={{ fontSize: TYPE.mark, color: sea.ink2 }}>
          {working ? 'measuring' : `worst note, ${bars} ${bars === 1 ? 'bar' : 'bars'}`}
        </Box>
      </Box>
      <Progress />
      {stopped && (
        <Box role="status" sx={{ fontSize: TYPE.control, pb: '6px' }}>
          Stopped: {figures ? 'these figures are of an earlier state.' : 'nothing is measured yet.'}{' '}
          <Button size="small" onClick={measureNow}>
            Measure
          </Button>
        </Box>
      )}
      {failed && (
        <Box role="alert" sx={{ color: sea.short, fontSize: TYPE.control }}>
          The figures could not be measured: {failed}. Change anything to try again.
        </Box>
      )}
      {!figures && !failed && !stopped && (
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2, borderTop: `1px solid ${sea.hair}`, pt: 1 }}>
          Rendering the loop for the first time.
        </Box>
      )}
      <Box component="ul" sx={{ m: 0, p: 0, opacity: working ? 0.75 : 1, transition: 'opacity 150ms 200ms' }}>
        {figures?.map((figure) => (
          <FigureRow key={figure.id} figure={figure} />
        ))}
      </Box>
      <Warnings />
      <Advice />
    </Box>
  );
}
