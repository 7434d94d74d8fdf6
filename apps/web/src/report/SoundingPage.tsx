import { fileNameOf, plain, soundingCsv, type SoundingFile } from '@abyssal/core';
import { Box, Button, CircularProgress } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useRef, type ReactNode } from 'react';
import { useParams } from 'react-router';
import { readSounding } from '../api/soundings';
import { VERDICTS } from '../controls/Mark';
import { PageProblem } from '../shell/PageProblem';
import { download } from '../sounding/bounce';
import { tellError } from '../state/view-store';
import { PAPER } from '../theme/sea';
import { NUMERALS } from '../theme/theme';
import { TYPE } from '../theme/type';
import { MonoBars, SpectrumOverDepth, SystemsMap } from './charts';
import { savePng, saveSvg } from './save-chart';

/** What is not printed. */
const onScreen = { '@media print': { display: 'none' } } as const;

/** A chart under its title, to be saved by itself. */
function Chart({
  title,
  name,
  children,
}: {
  readonly title: string;
  readonly name: string;
  readonly children: ReactNode;
}) {
  const ref = useRef<HTMLElement>(null);
  const drawing = () => ref.current?.querySelector('svg') ?? null;
  return (
    <Box component="section" ref={ref} aria-label={title} sx={{ minWidth: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: '4px', mb: '4px' }}>
        <Box component="h2" sx={{ flex: 1, m: 0, fontSize: TYPE.body, fontWeight: 600 }}>
          {title}
        </Box>
        <Box sx={onScreen}>
          <Button
            size="small"
            aria-label={`Save “${title}” as SVG`}
            onClick={() => {
              const svg = drawing();
              if (svg) saveSvg(svg, name);
            }}
          >
            SVG
          </Button>
          <Button
            size="small"
            aria-label={`Save “${title}” as PNG`}
            onClick={() => {
              const svg = drawing();
              if (svg) savePng(svg, name).catch(tellError);
            }}
          >
            PNG
          </Button>
        </Box>
      </Box>
      {children}
    </Box>
  );
}

function FigureTable({ file }: { readonly file: SoundingFile }) {
  return (
    <Box
      component="table"
      aria-label="Figures, the worst first"
      sx={{
        width: '100%',
        borderSpacing: 0,
        fontSize: TYPE.note,
        lineHeight: 1.25,
        '& td': { borderTop: `1px solid ${PAPER.hair}`, p: '2px 8px 2px 0', verticalAlign: 'baseline' },
      }}
    >
      <tbody>
        {file.figures.map(({ id, label, unit, value, outOf, verdict, detail, reason }) => (
          <tr key={id}>
            <Box
              component="td"
              sx={{ whiteSpace: 'nowrap', color: VERDICTS[verdict].colour, fontWeight: 500 }}
            >
              {VERDICTS[verdict].mark} {VERDICTS[verdict].words}
            </Box>
            <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
              {label}
            </Box>
            <Box
              component="td"
              sx={{ textAlign: 'right', whiteSpace: 'nowrap', fontFamily: NUMERALS, fontStyle: 'italic' }}
            >
              {value === null ? '–' : plain(value, outOf === null ? 1 : 0)}
              {outOf === null ? '' : ` / ${outOf}`}
            </Box>
            <td>{unit}</td>
            <Box component="td" sx={{ color: PAPER.ink2 }}>
              {reason ?? detail}
            </Box>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

/** A sounding as it is kept, on one page to be printed: nothing is measured for it. */
export function SoundingPage() {
  const { owner = '' } = useParams();
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['sounding', owner],
    queryFn: () => readSounding(owner),
    retry: false,
  });
  if (error)
    return (
      <PageProblem
        sentence={`${error.message} Open the sound once: it is measured and kept then.`}
        onRetry={() => void refetch()}
      />
    );
  if (isPending)
    return (
      <Box sx={{ height: '100%', display: 'grid', placeContent: 'center' }}>
        <CircularProgress aria-label="Reading the sounding" />
      </Box>
    );
  const { content: file, measuredAt } = data;
  const base = fileNameOf(file.name || 'sound');
  return (
    <Box
      sx={{
        bgcolor: PAPER.sheet,
        color: PAPER.ink,
        minHeight: '100%',
        overflow: 'auto',
        '@media print': { minHeight: 0 },
        '@page': { size: 'A4', margin: '12mm' },
      }}
    >
      <Box
        component="main"
        sx={{ maxWidth: 720, mx: 'auto', p: '20px', '@media print': { p: 0, maxWidth: 'none' } }}
      >
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: '10px', flexWrap: 'wrap' }}>
          <Box
            component="h1"
            sx={{ m: 0, fontFamily: NUMERALS, fontStyle: 'italic', fontSize: TYPE.numeral, fontWeight: 600 }}
          >
            {file.name || 'Unnamed'}
          </Box>
          <Box sx={{ flex: 1, color: PAPER.ink2, fontSize: TYPE.control }}>
            Sounding · {file.key}, {plain(file.tempoBpm, 0)} bpm, {file.bars}{' '}
            {file.bars === 1 ? 'bar' : 'bars'} · measured {new Date(measuredAt).toLocaleString()}
          </Box>
          <Box sx={{ ...onScreen, display: 'flex', gap: '6px' }}>
            <Button
              variant="contained"
              onClick={() => {
                window.print();
              }}
            >
              Print
            </Button>
            <Button
              variant="outlined"
              onClick={() => {
                download(`${base}-sounding.json`, JSON.stringify(file, null, 2), 'application/json');
              }}
            >
              JSON
            </Button>
            <Button
              variant="outlined"
              onClick={() => {
                download(`${base}-sounding.csv`, soundingCsv(file), 'text/csv');
              }}
            >
              CSV
            </Button>
          </Box>
        </Box>
        <Box sx={{ mt: '12px', display: 'grid', gap: '14px' }}>
          <Chart title="Heard on each system, note by note" name={`${base}-systems`}>
            <SystemsMap file={file} />
          </Chart>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '20px' }}>
            <Chart title="Lost when summed to mono" name={`${base}-mono`}>
              <MonoBars file={file} />
            </Chart>
            <Chart title="Spectrum over depth" name={`${base}-spectrum`}>
              <SpectrumOverDepth file={file} />
            </Chart>
          </Box>
          <FigureTable file={file} />
        </Box>
      </Box>
    </Box>
  );
}
