import Papa from 'papaparse';
import type { SoundingFile } from './sounding-file.js';

/** Rows of one kind, under their heads. */
const table = (heads: readonly string[], rows: readonly (readonly unknown[])[]) =>
  Papa.unparse({ fields: [...heads], data: rows.map((row) => [...row]) }, { newline: '\n' });

/**
 * A sounding as CSV (RFC 4180): tables one after another with an empty line between them, each with a head: figures, systems by
 * notes, notes, mono by octaves, the spectrum by thirds of an octave. What cannot be told is empty.
 */
export function soundingCsv({ figures, systems, notes, mono, spectrum }: SoundingFile): string {
  return [
    table(
      ['figure', 'value', 'unit', 'verdict', 'detail'],
      figures.map(({ label, value, unit, verdict, detail, reason }) => [
        label,
        value,
        unit,
        verdict,
        reason ?? detail,
      ]),
    ),
    table(
      ['system', 'matters', 'note', 'at', 'verdict', 'margin dB'],
      systems.flatMap(({ name, matters, notes: each }) =>
        each.map(({ note, at, verdict, marginDb }) => [name, matters, note, at, verdict, marginDb]),
      ),
    ),
    table(
      [
        'note',
        'at',
        'sub level dBFS',
        'sub alone LUFS',
        'off pitch ct',
        'wobble found Hz',
        'wobble asked Hz',
      ],
      notes.map(({ note, at, subLevelDb, subLufs, offPitchCents, wobbleHz, askedHz }) => [
        note,
        at,
        subLevelDb,
        subLufs,
        offPitchCents,
        wobbleHz,
        askedHz.join(' '),
      ]),
    ),
    table(
      ['octave Hz', 'mono loss dB', 'correlation'],
      mono.bands.map(({ centreHz, lossDb, correlation }) => [centreHz, lossDb, correlation]),
    ),
    table(
      ['third of an octave Hz', 'bass dB'],
      spectrum.centresHz.map((hz, i) => [hz, spectrum.bassDb[i]]),
    ),
  ]
    .map((text) => `${text}\n`)
    .join('\n');
}
