import { AUDIO_FIGURES, plain, type AudioFigures } from '@abyssal/core';
import { Box } from '@mui/material';
import { useState } from 'react';
import { Choice } from '../../controls/Choice';
import { Legend } from '../../charts/Legend';
import { useOther } from '../../sounding/other-store';
import { useSounding } from '../../sounding/sounding-store';
import { sea } from '../../theme/sea';
import { NUMERALS } from '../../theme/theme';
import { TYPE } from '../../theme/type';
import { against, differences } from './against';
import { AgainstChart } from './AgainstChart';

/** The figures of the sound by which it is compared, from what is measured of it. */
function useOwnFigures(): Record<Exclude<keyof AudioFigures, 'thirdsDb'>, number | null> | null {
  const shown = useSounding((state) => state.shown);
  const tone = useSounding((state) => state.report?.tone ?? null);
  if (!shown || !tone) return null;
  return {
    integratedLufs: shown.figures.find(({ id }) => id === 'loudness')?.figure.value ?? null,
    truePeakDbtp: shown.truePeakDbtp.value,
    crestDb: tone.crestDb.value,
    subToBodyDb: tone.subToBodyDb.value,
    mudDb: tone.mudDb.value,
    glareDb: tone.glare.db.value,
    lowMonoLossDb: shown.mono.low.value,
    highMonoLossDb: shown.mono.high.value,
    clicks: shown.clicks.length,
  };
}

const text = (value: number | null, unit: string) =>
  value === null ? '–' : plain(value, unit === '' ? 0 : 1);

/** The sound against B: long-term spectra at one loudness with their difference, and figures side by side. */
export function AgainstPanel() {
  const { other, compared, done } = useOther();
  const own = useOwnFigures();
  const thirds = useSounding((state) => state.report?.tone.thirdsDb ?? null);
  const [by, setBy] = useState<'thirds' | 'octaves'>('thirds');
  if (!other)
    return (
      <Box sx={{ fontSize: TYPE.control, color: sea.ink2 }}>
        Nothing is set against the sound yet: choose a kept state, another sound or a WAV at A⇄B in the foot.
      </Box>
    );
  if (!compared || !own || !thirds)
    return (
      <Box role="status" sx={{ fontSize: TYPE.control, color: sea.ink2 }}>
        {done === null ? 'Measuring.' : `Rendering ${other.name}: ${Math.round(100 * done)} %.`}
      </Box>
    );
  const found = against(thirds, compared.figures.thirdsDb, by);
  return (
    <>
      <Box
        sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: '8px', mb: '4px' }}
      >
        <Choice
          label="Bands"
          options={[
            { value: 'thirds', label: 'Thirds' },
            { value: 'octaves', label: 'Octaves' },
          ]}
          value={by}
          onChange={setBy}
        />
        <Box sx={{ fontSize: TYPE.note, color: sea.ink2 }}>
          <Legend
            entries={[
              ['A, the sound', sea.tint5],
              [`B, ${other.name}`, sea.kick],
            ]}
          />
        </Box>
      </Box>
      <AgainstChart found={found} differences={differences(found)} name={other.name} />
      <Box
        component="table"
        aria-label={`Figures against ${other.name}`}
        sx={{
          width: '100%',
          mt: '4px',
          borderSpacing: 0,
          fontSize: TYPE.control,
          '& th': { fontWeight: 400, textAlign: 'left', p: '2px 0', borderTop: `1px solid ${sea.hair}` },
          '& thead th': { borderTop: 0, color: sea.ink2 },
          '& td, & th:not(:first-of-type)': { textAlign: 'right' },
          '& td': {
            borderTop: `1px solid ${sea.hair}`,
            fontFamily: NUMERALS,
            fontStyle: 'italic',
            width: 72,
          },
          '& td:last-of-type': { fontFamily: 'inherit', fontStyle: 'normal', color: sea.ink2, width: 44 },
        }}
      >
        <thead>
          <tr>
            <th scope="col">as they are</th>
            <th scope="col">A</th>
            <th scope="col">B</th>
            <th scope="col" aria-label="unit" />
          </tr>
        </thead>
        <tbody>
          {AUDIO_FIGURES.map(([id, label, unit]) => (
            <tr key={id}>
              <th scope="row">{label}</th>
              <td>{text(own[id], unit)}</td>
              <td>{text(compared.figures[id].value, unit)}</td>
              <td>{unit}</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </>
  );
}
