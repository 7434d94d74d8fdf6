import type { SoundDocument } from '@abyssal/core';
import { ApiProblem } from '../api/problem';
import { readSound } from '../api/sounds';
import { readJournals } from '../browser/journals';
import { seenSounds } from '../browser/stores';

/**
 * The newest state of a sound that is known here: unsaved work before what the server has, and what was seen
 * last where the server is away. Throws an `ApiProblem`.
 */
export async function newestState(id: string): Promise<SoundDocument> {
  const work = (await readJournals()).journals.filter(({ soundId }) => soundId === id).pop();
  if (work) return work.document;
  try {
    return (await readSound(id)).document;
  } catch (error) {
    const seen = error instanceof ApiProblem && error.away ? await seenSounds.get(id) : undefined;
    if (!seen) throw error;
    return seen.document;
  }
}
