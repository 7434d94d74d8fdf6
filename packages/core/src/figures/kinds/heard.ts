import type { SoundDocument } from '../../document/index.js';
import { known, unknown } from '../../measure/index.js';
import { noteName } from '../../music/index.js';
import { matters, systemsOf } from '../../translation/index.js';
import { standWithin, type FigureSpec, type HeardPass } from './spec.js';

/** The systems that matter which lose a note, and the pitches that they lose, lowest first. */
export function losing(
  document: SoundDocument,
  { heard }: Pick<HeardPass, 'heard'>,
): { readonly id: string; readonly name: string; readonly pitches: readonly number[] }[] {
  return systemsOf(document).flatMap((system, s) => {
    if (!matters(document, system)) return [];
    const pitches = heard.flatMap((note) => (note.heard?.[s].verdict === 'lost' ? [note.note.pitch] : []));
    const each = [...new Set(pitches)].sort((a, b) => a - b);
    return each.length > 0 ? [{ id: system.id, name: system.name, pitches: each }] : [];
  });
}

/** Names of notes, no more of them than can be read in a glance. */
function named(pitches: readonly number[]): string {
  const names = pitches.map((pitch) => noteName(pitch));
  return names.length <= 3
    ? names.join(', ')
    : `${names.slice(0, 2).join(', ')} and ${names.length - 2} more`;
}

/** How many of the systems that matter lose no note of the line. */
export const heard: FigureSpec<HeardPass> = {
  label: 'Heard on systems',
  unit: '',
  signed: false,
  digits: 0,
  targets: ['systemsShort', 'systemsShortWatch'],
  means:
    'On how many playback systems every note is felt or implied by its harmonics: a bare sub is lost on small ones.',
  measure: (pass, document) => {
    const all = systemsOf(document).filter((system) => matters(document, system)).length;
    if (all === 0) return unknown('no system matters for this sound');
    if (pass.heard.length === 0) return unknown('the line is empty');
    if (pass.heard.every((note) => note.heard === null))
      return unknown(pass.heard[0].reason ?? 'no note can be told');
    return known(all - losing(document, pass).length);
  },
  badness: (value) => -value,
  stand: ({ figure: { value }, pass }, document) => {
    const all = systemsOf(document).filter((system) => matters(document, system)).length;
    const lost = losing(document, pass);
    const [first] = lost;
    const where =
      lost.length === 0
        ? 'no note is lost on any that matters'
        : lost.length === 1
          ? `lost: ${first.name.toLowerCase()} on ${named(first.pitches)}`
          : `lost: ${lost.map(({ name }) => name.toLowerCase()).join(', ')}`;
    const { systemsShort, systemsShortWatch } = document.targets;
    return {
      ...standWithin(value === null ? null : all - value, { most: [systemsShort, systemsShortWatch] }, where),
      margin: null,
      outOf: all,
    };
  },
};
