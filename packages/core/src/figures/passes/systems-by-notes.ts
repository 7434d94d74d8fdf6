import type { LineNote, SoundDocument } from '../../document/index.js';
import type { LoopRender } from '../../engine/index.js';
import { harmonicsOfNote, listen, type Listening, type PlaybackSystem } from '../../translation/index.js';
import { noteStretches } from './meetings.js';

/** What a listener gets of one note of the line, on each system in their order; or why that cannot be told. */
export type NoteOnSystems =
  | { readonly note: LineNote; readonly heard: readonly Listening[]; readonly reason: null }
  | { readonly note: LineNote; readonly heard: null; readonly reason: string };

/** What a listener gets of the bass, note by note, on each of some systems. */
export function systemsByNotes(
  document: SoundDocument,
  { bass: { left, right }, frames, sampleRateHz }: Pick<LoopRender, 'bass' | 'frames' | 'sampleRateHz'>,
  systems: readonly PlaybackSystem[],
): NoteOnSystems[] {
  const stretches = noteStretches(document, frames, sampleRateHz);
  return document.line.notes.map((note, n) => {
    const { from, to, periodS } = stretches[n];
    const found = harmonicsOfNote(left, right, from, to, sampleRateHz, 1 / periodS);
    return found.harmonics
      ? { note, heard: systems.map((system) => listen(system, found.harmonics)), reason: null }
      : { note, heard: null, reason: found.reason };
  });
}
