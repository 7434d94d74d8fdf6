import {
  hearingThresholdDb,
  hertzText,
  HIGHEST_OF_PAIR,
  noteName,
  plain,
  type Heard,
  type HeardHarmonic,
  type Listening,
  type NoteOnSystems,
  type PlaybackSystem,
} from '@abyssal/core';

/** What a listener gets of one pitch of the line on one system: of its notes the one that is heard least. */
export interface HeardCell {
  readonly pitch: number;
  readonly system: PlaybackSystem;
  /** Null where none of its notes can be told. */
  readonly listening: Listening | null;
  /** Why it cannot be told; null where it can. */
  readonly reason: string | null;
}

/** The pitches of the line, lowest first, a cell for each system. */
export interface HeardColumn {
  readonly pitch: number;
  readonly cells: readonly HeardCell[];
}

const ORDER: Readonly<Record<Heard, number>> = { lost: 0, implied: 1, felt: 2 };
const less = (a: Listening, b: Listening) =>
  ORDER[a.verdict] < ORDER[b.verdict] || (a.verdict === b.verdict && a.marginDb < b.marginDb);

/** What is heard, by pitches and systems; `heard` has what each note gives on each of the systems, in their order. */
export function heardColumns(
  heard: readonly NoteOnSystems[],
  systems: readonly PlaybackSystem[],
): HeardColumn[] {
  const pitches = [...new Set(heard.map(({ note }) => note.pitch))].sort((a, b) => a - b);
  return pitches.map((pitch) => {
    const notes = heard.filter(({ note }) => note.pitch === pitch);
    const told = notes.flatMap((each) => (each.heard ? [each.heard] : []));
    const reason = told.length > 0 ? null : notes[0].reason;
    return {
      pitch,
      cells: systems.map((system, s) => {
        const each = told.map((on) => on[s]);
        const listening =
          each.length > 0 ? each.reduce((least, other) => (less(other, least) ? other : least)) : null;
        return { pitch, system, listening, reason };
      }),
    };
  });
}

/** The cell that is looked at unless another is chosen: the one that is heard least. */
export function leastHeard(columns: readonly HeardColumn[]): HeardCell | null {
  const cells = columns.flatMap((column) => column.cells);
  return cells.reduce<HeardCell | null>(
    (least, cell) =>
      cell.listening && (!least?.listening || less(cell.listening, least.listening)) ? cell : least,
    cells.at(0) ?? null,
  );
}

const over = ({ splDb, thresholdDb }: HeardHarmonic) => splDb - thresholdDb;

/** What hides a harmonic. */
const hides = ({ hz, thresholdDb }: HeardHarmonic) =>
  thresholdDb > hearingThresholdDb(hz) ? 'the room’s noise' : 'what can be heard at all';

/** A note on a system in words. */
export const placeWords = ({ pitch, system }: Pick<HeardCell, 'pitch' | 'system'>) =>
  `${noteName(pitch)} on the ${system.name.toLowerCase()}`;

/** A sentence on a cell: what is heard of it, and by how much. */
export function heardWords(cell: HeardCell): string {
  const { listening, reason } = cell;
  const where = placeWords(cell);
  if (!listening) return `${where}: cannot tell, ${reason}.`;
  const margin = plain(Math.abs(listening.marginDb));
  if (listening.verdict === 'felt') return `${where}: felt. Its fundamental has ${margin} dB to spare.`;
  if (listening.verdict === 'implied')
    return `${where}: implied. Its fundamental is not heard, but two of its harmonics are, with ${margin} dB to spare.`;
  const best = listening.harmonics
    .slice(0, HIGHEST_OF_PAIR)
    .reduce((most, each) => (over(each) > over(most) ? each : most));
  const stands = over(best);
  return !best.audible
    ? `${where}: lost. The best of its first ten harmonics, ${hertzText(best.hz)}, is ${plain(Math.abs(stands))} dB ${stands < 0 ? 'under' : 'over'} ${hides(best)}.`
    : `${where}: lost. Of its first ten harmonics ${hertzText(best.hz)} is heard, but no neighbour that would imply the fundamental with it.`;
}
