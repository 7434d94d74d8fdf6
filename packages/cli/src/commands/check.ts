import { DocumentError, explainError, readSoundFile } from '@abyssal/core';
import { loadText } from './files.js';

/** Checks a sound file; `valid` tells whether it can be opened. */
export async function check(path: string) {
  const text = await loadText(path);
  try {
    readSoundFile(text);
    return { valid: true, problems: [] };
  } catch (error) {
    if (error instanceof DocumentError) return { valid: false, problems: error.problems };
    const message = explainError(error);
    if (message === null) throw error;
    return { valid: false, problems: [{ path: '', message }] };
  }
}
