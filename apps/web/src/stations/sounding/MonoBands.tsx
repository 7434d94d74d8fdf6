import { plain, type MonoBand, type Targets, type Verdict } from '@abyssal/core';
import { Box } from '@mui/material';
import { VERDICTS } from '../../controls/Mark';
import { useSounding } from '../../sounding/sounding-store';
import { useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { NUMERALS } from '../../theme/theme';
import { TYPE } from '../../theme/type';
import { bandName, bandVerdict } from './mono-bands';

/** Loss that fills a bar, dB. */
const FULL_DB = 8;

const colourOf = (verdict: Verdict) => (verdict === 'holds' ? sea.tint5 : VERDICTS[verdict].colour);

function BandRow({ band, targets }: { readonly band: MonoBand; readonly targets: Targets }) {
  const { value, reason } = band.lossDb;
  const verdict = bandVerdict(band, targets);
  const share = value === null ? 0 : Math.min(1, Math.max(0, -value / FULL_DB));
  const alike = band.correlation.value;
  return (
    <tr>
      <th scope="row">{bandName(band.centreHz)}</th>
      <td>
        <Box sx={{ position: 'relative', height: 14, bgcolor: sea.tint1 }}>
          <Box
            sx={{ position: 'absolute', inset: 0, width: `${100 * share}%`, bgcolor: colourOf(verdict) }}
          />
        </Box>
      </td>
      <td title={reason ?? undefined} style={{ color: verdict === 'holds' ? undefined : colourOf(verdict) }}>
        {value === null ? '–' : `${verdict === 'holds' ? '' : `${VERDICTS[verdict].mark} `}${plain(value)}`}
      </td>
      <td>{alike === null ? '–' : plain(alike, 2)}</td>
    </tr>
  );
}

/** What the bass loses in each octave where left and right are summed. */
export function MonoBands() {
  const mono = useSounding(({ shown }) => shown?.mono ?? null);
  const targets = useSound((sound) => sound.targets);
  return (
    <>
      {mono && (
        <Box
          component="table"
          aria-label="Lost when summed to mono"
          sx={{
            width: '100%',
            borderSpacing: '0 3px',
            fontSize: TYPE.control,
            '& th': { fontWeight: 400, textAlign: 'right', color: sea.ink2, width: 34, pr: '8px' },
            '& td': { p: 0 },
            '& td:nth-of-type(n + 2)': {
              fontFamily: NUMERALS,
              fontStyle: 'italic',
              textAlign: 'right',
              width: 56,
            },
          }}
        >
          <tbody>
            {[...mono.bands].reverse().map((band) => (
              <BandRow key={band.centreHz} band={band} targets={targets} />
            ))}
          </tbody>
        </Box>
      )}
      <Box sx={{ mt: '4px', fontSize: TYPE.note, color: sea.ink2 }}>
        Targets: {plain(targets.lowMonoLossDb)} dB or better below 120 Hz, {plain(targets.highMonoLossDb)}{' '}
        from 250 Hz.{' '}
        {mono?.low.value == null
          ? ''
          : `A mono sub, as the club stack has, takes ${plain(-mono.low.value)} dB of the lows.`}
      </Box>
    </>
  );
}
