import { assetsOf, fileNameOf, writeSoundFile, type SoundDocument } from '@abyssal/core';
import { download } from '../sounding/bounce';
import { recordingBytes } from '../state/recordings';
import { tell } from '../state/view-store';
import { toBase64 } from './base64';

/**
 * Saves a sound with its recordings as a file. A recording that neither browser nor server has at present is
 * left out, and told: the rest of the work is not held back by it.
 */
export async function saveToFile(document: SoundDocument): Promise<void> {
  const assets: Record<string, string> = {};
  let missing = 0;
  for (const hash of assetsOf(document)) {
    const bytes = await recordingBytes(hash).catch(() => null);
    if (bytes) assets[hash] = toBase64(bytes);
    else missing++;
  }
  download(
    `${fileNameOf(document.name)}.abyssal.json`,
    writeSoundFile({ sound: document, assets }),
    'application/json',
  );
  if (missing > 0)
    tell(
      `The file lacks ${missing === 1 ? 'a recording' : `${missing} recordings`} that cannot be read now: export it again when the server answers.`,
    );
}
