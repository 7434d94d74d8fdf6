import { DocumentError, readDocument, type SoundDocument } from '../document/index.js';
import { readJson } from './bounded-json.js';
import { FormatError } from './format-error.js';

/**
 * A sound with the recordings it needs, so that it can go elsewhere: WAV files in base64 by their SHA-256.
 */
export interface SoundFile {
  readonly sound: SoundDocument;
  readonly assets: Readonly<Record<string, string>>;
}

const BUNDLE = 'abyssal.bundle';
const HASH = /^[0-9a-f]{64}$/;
const BASE64 = /^[A-Za-z0-9+/]*={0,2}$/;

/**
 * Reads a sound file: a sound document as JSON, or one bundled with its recordings. Throws a `FormatError`
 * for text that is no
 * such file and a `DocumentError` that names each wrong field.
 */
export function readSoundFile(text: string): SoundFile {
  let value: unknown;
  try {
    value = readJson(text);
  } catch (error) {
    const why = error instanceof FormatError ? error.message : 'it is not JSON';
    throw new FormatError(`this is not a sound file: ${why}`);
  }
  const bundle = value as {
    format?: unknown;
    formatVersion?: unknown;
    sound?: unknown;
    assets?: unknown;
  } | null;
  if (typeof value !== 'object' || bundle?.format !== BUNDLE)
    return { sound: readDocument(value), assets: {} };
  if (bundle.formatVersion !== 1)
    throw new FormatError(
      `the sound file is of version ${String(bundle.formatVersion)}; this program reads version 1. Open it with a newer Abyssal`,
    );
  const sound = readDocument(bundle.sound);
  const assets = (bundle.assets ?? {}) as Record<string, unknown>;
  for (const [hash, data] of Object.entries(assets)) {
    if (!HASH.test(hash) || typeof data !== 'string' || !BASE64.test(data))
      throw new FormatError('the sound file is broken: a recording in it cannot be read');
  }
  return { sound, assets: assets as Record<string, string> };
}

/** Writes a sound file; bundled when there are recordings to go with it. */
export function writeSoundFile({ sound, assets }: SoundFile): string {
  const bundled = Object.keys(assets).length > 0;
  return `${JSON.stringify(bundled ? { format: BUNDLE, formatVersion: 1, sound, assets } : sound, null, 1)}\n`;
}

/**
 * A recording that a sound names: its hash, its file's name, and whether the sound is without something to
 * hear where it lacks it.
 */
export interface NamedAsset {
  readonly asset: string;
  readonly fileName: string;
  readonly needed: boolean;
}

/** The recordings that a sound names: its kick's, and those of its tones. */
export function namedAssets({ kick, layers, backing }: SoundDocument): NamedAsset[] {
  const tones = layers.flatMap((layer) =>
    layer.tones.flatMap(({ on, source }) => {
      const files =
        source.kind === 'frames' && source.wav ? [source.wav] : source.kind === 'sample' ? source.zones : [];
      return files.map(({ asset, fileName }) => ({ asset, fileName, needed: on && layer.on }));
    }),
  );
  return [
    ...(kick.wav
      ? [{ asset: kick.wav.asset, fileName: kick.wav.fileName, needed: kick.source === 'wav' }]
      : []),
    ...(kick.made.clickWav
      ? [{ ...kick.made.clickWav, needed: kick.source === 'made' && kick.made.click === 'sample' }]
      : []),
    ...backing.map(({ asset, fileName, on }) => ({ asset, fileName, needed: on })),
    ...tones,
  ];
}

/** Hashes of the recordings that a sound names, each once. */
export function assetsOf(sound: SoundDocument): string[] {
  return [...new Set(namedAssets(sound).map(({ asset }) => asset))];
}

/** One sentence that says what is wrong with a file or a document; null for errors of another kind. */
export function explainError(error: unknown): string | null {
  return error instanceof FormatError || error instanceof DocumentError ? error.message : null;
}
