import {
  FormatError,
  harmonicsOfNote,
  listen,
  noteName,
  noteToHz,
  parseNote,
  SYSTEMS,
  type PlaybackSystem,
} from '@abyssal/core';
import { loadWav } from './files.js';

export interface TranslateFlags {
  readonly note: string;
  readonly systems?: string;
}

function chosen(ids: string | undefined): readonly PlaybackSystem[] {
  if (ids === undefined) return SYSTEMS;
  return ids.split(',').map((id) => {
    const found = SYSTEMS.find((system) => system.id === id.trim());
    if (!found)
      throw new FormatError(
        `--systems: there is no system “${id.trim()}”; there are ${SYSTEMS.map((system) => system.id).join(', ')}`,
      );
    return found;
  });
}

/** What a listener gets, on each system, of a note that a WAV file holds. What cannot be told is null. */
export async function translate(path: string, flags: TranslateFlags) {
  const pitch = parseNote(flags.note);
  if (pitch === null) throw new FormatError(`--note ${flags.note}: give a note such as F1 or G#2`);
  const systems = chosen(flags.systems);
  const { channels, sampleRateHz } = await loadWav(path);
  const [left, right = left] = channels;
  const found = harmonicsOfNote(left, right, 0, left.length, sampleRateHz, noteToHz(pitch));
  if (!found.harmonics) process.stderr.write(`cannot tell: ${found.reason}\n`);
  return {
    note: noteName(pitch),
    f0Hz: found.harmonics?.f0Hz ?? null,
    systems: systems.map((system) => ({
      id: system.id,
      name: system.name,
      ...(found.harmonics
        ? listen(system, found.harmonics)
        : { verdict: null, marginDb: null, harmonics: [] }),
    })),
  };
}
