import { bent, type MoverOf } from '@abyssal/core';
import { Box } from '@mui/material';
import { polyline } from '../../../charts/polyline';
import { ParameterRow } from '../../../controls/ParameterRow';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { MoverFrame } from './MoverFrame';
import type { MoverView } from './mover-view';

type OfNote = MoverOf<'touch'> | MoverOf<'key'> | MoverOf<'accent'> | MoverOf<'chance'>;

/** The curve along which a note's word becomes the mover's value. */
function Curve({ bend, label }: { readonly bend: number; readonly label: string }) {
  const path = polyline(Array.from({ length: 41 }, (_, i) => [i * 5, 74 - 68 * bent(i / 40, bend)] as const));
  return (
    <Box
      component="svg"
      viewBox="0 0 200 80"
      preserveAspectRatio="none"
      role="img"
      aria-label={label}
      sx={{ width: '100%', maxWidth: 260, height: 80, bgcolor: sea.tint1, display: 'block' }}
    >
      <path d={`${path}L200 80L0 80Z`} fill={sea.tint2} />
      <path d={path} fill="none" stroke={sea.ink} strokeWidth={1.6} vectorEffect="non-scaling-stroke" />
    </Box>
  );
}

/** A kind that says one thing of each note: what its axis runs from and to, and what it does. */
function ofNote(words: { readonly from: string; readonly to: string; readonly says: string }) {
  return function NotePanel({ index, mover }: { readonly index: number; readonly mover: OfNote }) {
    return (
      <MoverFrame index={index} mover={mover} aside={words.says}>
        <Curve bend={mover.bend} label={`${mover.name}: from ${words.from} to ${words.to}`} />
        <Box
          sx={{
            display: 'flex',
            justifyContent: 'space-between',
            maxWidth: 260,
            fontSize: TYPE.note,
            color: sea.ink2,
            mb: '4px',
          }}
        >
          <span>{words.from}</span>
          <span>{words.to}</span>
        </Box>
        <ParameterRow path={['movers', index, 'bend']} of={mover.name} labelWidth={70} />
      </MoverFrame>
    );
  };
}

export const touch: MoverView<'touch'> = {
  name: 'Touch',
  help: 'How hard each note is played.',
  Panel: ofNote({ from: 'velocity 0', to: '127', says: 'how hard each note is played' }),
  summary: () => 'velocity',
  outlinesNotes: false,
};

export const key: MoverView<'key'> = {
  name: 'Key',
  help: 'How high each note is, against the root: link it both ways.',
  Panel: ofNote({
    from: 'two octaves below the root',
    to: 'two above',
    says: 'how high each note is: in the middle at the root',
  }),
  summary: () => 'note',
  outlinesNotes: false,
};

export const accent: MoverView<'accent'> = {
  name: 'Accent',
  help: 'All the way up on accented notes.',
  Panel: ofNote({ from: 'plain', to: 'accent', says: 'all the way up on accented notes' }),
  summary: () => 'accents',
  outlinesNotes: false,
};

export const chance: MoverView<'chance'> = {
  name: 'Random per note',
  help: 'Another value for each note, the same each time round.',
  Panel: ofNote({ from: 'least', to: 'most', says: 'another value for each note, the same each time round' }),
  summary: () => 'random',
  outlinesNotes: false,
};
