import { createHash } from 'node:crypto';
import { readFile, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import {
  cleanWavKick,
  FormatError,
  MOST_WAV_BYTES,
  namedAssets,
  readSoundFile,
  readWav,
  type Assets,
  type DecodedWav,
  type SoundDocument,
} from '@abyssal/core';

/** A sound with its recordings decoded. */
export interface LoadedSound {
  readonly sound: SoundDocument;
  readonly assets: Assets;
  /** The same recordings as they are bundled: WAV files in base64. */ readonly bundled: Readonly<
    Record<string, string>
  >;
}

async function read(path: string): Promise<Buffer> {
  const { size } = await stat(path).catch(() => {
    throw new FormatError(`${path}: there is no such file, or it cannot be read`);
  });
  if (size > MOST_WAV_BYTES)
    throw new FormatError(`${path}: the file is larger than ${MOST_WAV_BYTES / 1024 / 1024} MB`);
  return readFile(path);
}

export async function loadText(path: string): Promise<string> {
  return (await read(path)).toString('utf8');
}

export async function loadWav(path: string): Promise<DecodedWav> {
  return readWav(await read(path));
}

/** Reads a sound file; every WAV that sounds must be bundled in it. */
export async function loadSound(path: string): Promise<LoadedSound> {
  const { sound, assets } = readSoundFile(await loadText(path));
  const decoded = new Map<string, DecodedWav>();
  for (const [hash, data] of Object.entries(assets)) {
    const bytes = Buffer.from(data, 'base64');
    if (createHash('sha256').update(bytes).digest('hex') !== hash)
      throw new FormatError('the sound file is broken: a recording in it has changed');
    decoded.set(hash, readWav(bytes));
  }
  const missing = namedAssets(sound).find(({ asset, needed }) => needed && !decoded.has(asset));
  if (missing)
    throw new FormatError(
      `the WAV "${missing.fileName}" is not in the sound file; export the sound again from the Library`,
    );
  return { sound, assets: decoded, bundled: assets };
}

/** Reads a sound file; where a WAV is given, that is the kick. */
export async function loadSoundWithKick(path: string, kick: string | undefined): Promise<LoadedSound> {
  const loaded = await loadSound(path);
  if (kick === undefined) return loaded;
  const recording = await loadWav(kick);
  const bytes = await readFile(kick);
  const hash = createHash('sha256').update(bytes).digest('hex');
  const { sound } = loaded;
  return {
    sound: {
      ...sound,
      kick: { ...sound.kick, on: true, source: 'wav', wav: cleanWavKick(hash, basename(kick)) },
    },
    assets: new Map([...loaded.assets, [hash, recording]]),
    bundled: { ...loaded.bundled, [hash]: bytes.toString('base64') },
  };
}
