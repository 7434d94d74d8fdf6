import { updateSound, type KeptSound } from '../api/sounds';
import type { Journal } from '../browser/journals';
import { tellSaved } from '../browser/windows';
import { sendRecordings } from '../state/recordings';

/** Saves the work of a journal over the version that it names, its recordings first. Throws an `ApiProblem`. */
export async function send(journal: Pick<Journal, 'soundId' | 'version' | 'document'>): Promise<KeptSound> {
  await sendRecordings(journal.document);
  const kept = await updateSound(journal.soundId, journal.version, journal.document);
  tellSaved(journal.soundId);
  return kept;
}
