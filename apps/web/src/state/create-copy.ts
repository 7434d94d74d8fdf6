import { plainText, type SoundDocument } from '@abyssal/core';
import { createSound, type KeptSound } from '../api/sounds';
import { sendRecordings } from './recordings';

/** Keeps a state as a sound of its own, “…, copy”, with its recordings. Throws an `ApiProblem`. */
export async function createCopy(document: SoundDocument): Promise<KeptSound> {
  await sendRecordings(document);
  return createSound({ ...document, name: `${plainText(document.name, 72)}, copy` });
}
