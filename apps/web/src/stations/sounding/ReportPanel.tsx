import { FIGURES, worstFirst, type FigureId, type JudgedFigure } from '@abyssal/core';
import { Box, ButtonBase } from '@mui/material';
import { useState } from 'react';
import { figureText } from '../../controls/figure-text';
import { VERDICTS } from '../../controls/Mark';
import { Panel } from '../../controls/Panel';
import { ParameterRow } from '../../controls/ParameterRow';
import { useSounding } from '../../sounding/sounding-store';
import { sea } from '../../theme/sea';
import { NUMERALS } from '../../theme/theme';
import { TYPE } from '../../theme/type';
import { FigureDetails } from './FigureDetails';
import { TargetSetButtons } from './TargetSetButtons';

function Row({
  judged,
  open,
  onOpen,
}: {
  readonly judged: JudgedFigure;
  readonly open: boolean;
  readonly onOpen: () => void;
}) {
  const { label, unit, means, targets } = FIGURES[judged.id];
  const { mark, words, colour } = VERDICTS[judged.verdict];
  const id = `report-${judged.id}`;
  return (
    <Box
      component="li"
      data-report={judged.id}
      sx={{ listStyle: 'none', borderTop: `1px solid ${sea.hair}` }}
    >
      <ButtonBase
        aria-expanded={open}
        aria-controls={id}
        onClick={onOpen}
        sx={{
          width: '100%',
          minHeight: 27,
          display: 'flex',
          gap: '8px',
          textAlign: 'left',
          fontFamily: 'inherit',
          fontSize: TYPE.control,
          bgcolor: open ? sea.tint1 : undefined,
          px: '4px',
        }}
      >
        <Box sx={{ width: 92, flex: 'none', color: colour, fontWeight: 500 }}>
          <span aria-hidden>{mark}</span> {words}
        </Box>
        <Box sx={{ flex: 1, minWidth: 0 }}>{label}</Box>
        <Box sx={{ whiteSpace: 'nowrap' }}>
          <Box component="span" sx={{ fontFamily: NUMERALS, fontStyle: 'italic', fontSize: TYPE.body }}>
            {figureText(judged)}
          </Box>{' '}
          <Box component="span" sx={{ color: sea.ink2, display: 'inline-block', width: 34 }}>
            {unit}
          </Box>
        </Box>
      </ButtonBase>
      {open && (
        <Box id={id} sx={{ p: '4px 6px 8px', fontSize: TYPE.control, lineHeight: 1.4 }}>
          <Box>{means}</Box>
          <Box sx={{ color: sea.ink2, mb: '4px' }}>
            {judged.figure.reason ?? judged.detail}
            {judged.margin === null ? '' : `; ${judged.margin}`}
            {judged.spread !== null && judged.spread > 0.05
              ? `; passes differ by ${judged.spread.toFixed(1)}`
              : ''}
            .
          </Box>
          <FigureDetails id={judged.id} />
          {targets.map((target) => (
            <ParameterRow key={target} path={['targets', target]} labelWidth={150} linkRoom={false} />
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Everything that is measured against its target, the worst first. */
export function ReportPanel() {
  const inView = useSounding(({ shown }) => shown?.figures ?? null);
  const rest = useSounding(({ report }) => report?.figures ?? null);
  const [picked, setPicked] = useState<FigureId | 'none' | null>(null);
  const figures = worstFirst([...(inView ?? []), ...(rest ?? [])]);
  const open = picked ?? figures[0]?.id;
  return (
    <Panel title="Report" aside={<TargetSetButtons />}>
      {inView === null ? (
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2 }}>Measuring.</Box>
      ) : (
        <Box component="ul" aria-label="Figures, the worst first" sx={{ m: 0, p: 0 }}>
          {figures.map((judged) => (
            <Row
              key={judged.id}
              judged={judged}
              open={judged.id === open}
              onOpen={() => {
                setPicked(judged.id === open ? 'none' : judged.id);
              }}
            />
          ))}
        </Box>
      )}
    </Panel>
  );
}
