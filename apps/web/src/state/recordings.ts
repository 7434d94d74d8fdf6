import { assetsOf, FormatError, MOST_WAV_BYTES, type SoundDocument, type SoundFile } from '@abyssal/core';
import { fetchAsset, sendAsset } from '../api/assets';
import { ApiProblem } from '../api/problem';
import { recordings, withRoom, type KeptRecording } from '../browser/stores';
import type { Read, Samples } from './decode.worker';
import { readInWorker } from './file-worker';
import { sha256 } from './sha256';

/** A recording as it was decoded. */
export interface DecodedRecording {
  readonly channels: readonly Float32Array[];
  readonly sampleRateHz: number;
  readonly durationS: number;
}

const decoded = new Map<string, Promise<DecodedRecording>>();
/** Recordings that the browser does not let us keep: they stay as long as the page does. */
const unkept = new Map<string, KeptRecording>();

async function keep(hash: string, recording: KeptRecording): Promise<void> {
  try {
    await withRoom(() => recordings.set(hash, recording));
    unkept.delete(hash);
  } catch {
    unkept.set(hash, recording);
  }
}

const keptHere = async (hash: string): Promise<KeptRecording | undefined> =>
  unkept.get(hash) ?? recordings.get(hash).catch(() => undefined);

/** Decodes a WAV away from the page. */
export async function decode(bytes: ArrayBuffer): Promise<DecodedRecording> {
  const found = await readInWorker<Read<Samples>>((decoder) => decoder.decode(bytes));
  if (!found.ok) throw new FormatError(found.sentence);
  const { channels, sampleRateHz } = found;
  return { channels, sampleRateHz, durationS: channels[0].length / sampleRateHz };
}

/** Reads a sound file away from the page. Throws a `FormatError`. */
export async function soundFileOf(text: string): Promise<SoundFile> {
  const found = await readInWorker<Read<SoundFile>>((decoder) => decoder.soundFile(text));
  if (!found.ok) throw new FormatError(found.sentence);
  return found;
}

/** Bytes of a recording as they were given; from the browser's own store, else from the server. */
export async function recordingBytes(hash: string): Promise<ArrayBuffer> {
  const kept = await keptHere(hash);
  if (kept) return kept.bytes;
  const bytes = await fetchAsset(hash);
  await keep(hash, { bytes, sent: true });
  return bytes;
}

/** A recording by its hash. */
export function recording(hash: string): Promise<DecodedRecording> {
  let found = decoded.get(hash);
  if (!found) {
    found = recordingBytes(hash).then(decode);
    found.catch(() => decoded.delete(hash));
    decoded.set(hash, found);
  }
  return found;
}

/**
 * Takes in a WAV: checks it by decoding, keeps it in the browser, and sends it to the server where that
 * answers. Returns its hash.
 */
export async function takeWav(file: Blob): Promise<string> {
  if (file.size > MOST_WAV_BYTES)
    throw new FormatError(`the file is larger than ${MOST_WAV_BYTES / 1024 / 1024} MB; trim it first`);
  const bytes = await file.arrayBuffer();
  await decode(bytes);
  const hash = await sha256(bytes);
  await keep(hash, { bytes, sent: false });
  await sendRecording(hash).catch((error: unknown) => {
    if (!(error instanceof ApiProblem && error.away)) throw error;
  });
  return hash;
}

/** Sends a recording that the server does not have yet. */
async function sendRecording(hash: string): Promise<void> {
  const kept = await keptHere(hash);
  if (!kept || kept.sent) return;
  await sendAsset(kept.bytes);
  await keep(hash, { ...kept, sent: true });
}

/** Sends every recording of a sound that the server does not have yet. */
export async function sendRecordings(document: SoundDocument): Promise<void> {
  for (const hash of assetsOf(document)) await sendRecording(hash);
}
