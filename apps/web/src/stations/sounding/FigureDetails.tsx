import { barBeat, loopTicks, noteName, plain, signed, type FigureId } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import type { ReactNode } from 'react';
import { audio } from '../../audio/audio-host';
import { useSounding } from '../../sounding/sounding-store';
import { useSound } from '../../state/document-store';
import { tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { NUMERALS } from '../../theme/theme';
import { TYPE } from '../../theme/type';
import { bandName } from './mono-bands';

/** A click is heard from so long before it, in seconds. */
const BEFORE_S = 0.25;

interface TableProps {
  readonly label: string;
  readonly heads: readonly string[];
  readonly rows: readonly (readonly ReactNode[])[];
}

function Table({ label, heads, rows }: TableProps) {
  return (
    <Box sx={{ maxHeight: 150, overflowY: 'auto', mb: '4px' }} tabIndex={0} role="region" aria-label={label}>
      <Box
        component="table"
        aria-label={label}
        sx={{
          width: '100%',
          borderSpacing: 0,
          fontSize: TYPE.note,
          '& th': { fontWeight: 400, color: sea.ink2, textAlign: 'right', p: '1px 4px' },
          '& td': { textAlign: 'right', p: '1px 4px', fontFamily: NUMERALS, fontStyle: 'italic' },
          '& th:first-of-type, & td:first-of-type': { textAlign: 'left' },
        }}
      >
        <thead>
          <tr>
            {heads.map((head) => (
              <th key={head} scope="col">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, r) => (
            <tr key={r}>
              {row.map((cell, c) => (
                <td key={c}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

const shown = (value: number | null, digits = 1) => (value === null ? '–' : plain(value, digits));

/** The times of clicks, each to be heard: the loop plays from just before. */
function Clicks() {
  const clicks = useSounding((state) => state.shown?.clicks ?? null);
  const { tempoBpm, bars } = useSound(({ ground }) => ground);
  if (!clicks || clicks.length === 0) return null;
  const perSecond = (480 * tempoBpm) / 60;
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '4px', mb: '4px' }}>
      {clicks.map(({ timeS, prominenceDb }) => {
        const tick = timeS * perSecond;
        const name = `${barBeat(Math.floor(tick))}, ${plain(prominenceDb, 0)} dB`;
        return (
          <Button
            key={timeS}
            size="small"
            variant="outlined"
            aria-label={`Hear the click at ${name}`}
            onClick={() => {
              const end = loopTicks(bars);
              audio.play((((tick - BEFORE_S * perSecond) % end) + end) % end).catch(tellError);
            }}
          >
            {name}
          </Button>
        );
      })}
    </Box>
  );
}

/** Sub levels, loudness and pitch of every note. */
function Notes({ of }: { readonly of: 'sub' | 'pitch' | 'wobble' }) {
  const notes = useSounding((state) => state.shown?.notes ?? null);
  const tone = useSounding((state) => state.report?.tone.notes ?? null);
  if (!notes || !tone || notes.length !== tone.length) return null;
  const place = notes.map(({ note }) => `${barBeat(note.tick)} ${noteName(note.pitch)}`);
  if (of === 'sub')
    return (
      <Table
        label="Lows of each note"
        heads={['note', 'sub level, dBFS', 'sub alone, LUFS']}
        rows={notes.map((each, n) => [place[n], shown(each.subLevelDb.value), shown(tone[n].subLufs.value)])}
      />
    );
  if (of === 'pitch')
    return (
      <Table
        label="Pitch of each note"
        heads={['note', 'found, ct off']}
        rows={notes.map(({ offPitchCents: { value, reason } }, n) => [
          place[n],
          value === null ? reason : signed(value, 0),
        ])}
      />
    );
  return (
    <Table
      label="Wobble of each note"
      heads={['note', 'found, Hz', 'asked, Hz']}
      rows={tone.map(({ wobbleHz, askedHz }, n) => [
        place[n],
        wobbleHz.value === null ? wobbleHz.reason : plain(wobbleHz.value, 2),
        askedHz.length === 0 ? '–' : askedHz.map((hz) => plain(hz, 2)).join(', '),
      ])}
    />
  );
}

function AgainstKick() {
  const bands = useSounding((state) => state.report?.tone.againstKick ?? null);
  if (!bands) return null;
  return (
    <Table
      label="Bass against kick by octaves"
      heads={['octave, Hz', 'bass over kick, dB']}
      rows={bands.map(({ centreHz, db }) => [bandName(centreHz), db === null ? '–' : signed(db)])}
    />
  );
}

function Masking() {
  const parts = useSounding((state) => state.report?.tone.masking ?? null);
  if (!parts || parts.length === 0) return null;
  return (
    <Table
      label="What backing parts hide"
      heads={['part', 'hidden', 'where, Hz']}
      rows={parts.map(({ name, share, hidden }) => [
        name,
        share === null ? '–' : `${plain(100 * share, 0)} %`,
        hidden.map(([from, to]) => `${Math.round(from)}–${Math.round(to)}`).join(', ') || '–',
      ])}
    />
  );
}

function Glare() {
  const peaks = useSounding((state) => state.report?.tone.glare.peaks ?? null);
  if (!peaks || peaks.length === 0) return null;
  return (
    <Table
      label="What sticks out"
      heads={['at, Hz', 'by, dB']}
      rows={peaks.map(({ hz, db }) => [plain(hz, 0), plain(db)])}
    />
  );
}

/** What is known of a figure beside its number: note by note, by octaves, or where. */
export function FigureDetails({ id }: { readonly id: FigureId }) {
  switch (id) {
    case 'evenness':
    case 'subAlone':
      return <Notes of="sub" />;
    case 'foundPitch':
      return <Notes of="pitch" />;
    case 'wobbles':
      return <Notes of="wobble" />;
    case 'clicks':
      return <Clicks />;
    case 'bassToKick':
      return <AgainstKick />;
    case 'masked':
      return <Masking />;
    case 'glare':
      return <Glare />;
    default:
      return null;
  }
}
