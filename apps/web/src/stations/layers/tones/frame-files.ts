import {
  cycleOf,
  type CycleSpectrum,
  fileNameOf,
  FormatError,
  framesFromAudio,
  fundamental,
  MOST_CYCLE_FRAMES,
  MOST_WAV_BYTES,
  plainText,
  type SourceOf,
  writeWav,
} from '@abyssal/core';
import { download } from '../../../sounding/bounce';
import { decode, takeWav } from '../../../state/recordings';

/** Length of a cycle in the WAVs that are kept and written. */
const CYCLE = 2048;

/**
 * Length of a cycle in a recording, in frames: as given, else found by its pitch; a file that holds whole
 * cycles of 2048 is taken so.
 */
export function cycleLength(channel: Float32Array, sampleRateHz: number, given: number | null): number {
  if (given !== null) {
    if (given < 16 || given > MOST_CYCLE_FRAMES || given > channel.length)
      throw new FormatError(
        `a cycle of ${given} frames cannot be cut from it; give 16 to ${Math.min(MOST_CYCLE_FRAMES, channel.length)}`,
      );
    return given;
  }
  if (channel.length % CYCLE === 0) return CYCLE;
  const pitch = fundamental(channel.subarray(0, 8 * sampleRateHz), sampleRateHz);
  if (pitch.value === null)
    throw new FormatError('no pitch was found in the WAV: type the length of one cycle in frames');
  return Math.round(sampleRateHz / pitch.value);
}

/**
 * Takes a WAV as a table: cuts it, keeps its cycles at 2048 frames each (which the engine reads fastest), and
 * sends them to the server.
 */
export async function takeFrames(
  file: File,
  given: number | null,
): Promise<NonNullable<SourceOf<'frames'>['wav']>> {
  if (file.size > MOST_WAV_BYTES)
    throw new FormatError(`the file is larger than ${MOST_WAV_BYTES / 1024 / 1024} MB; trim it first`);
  const { channels, sampleRateHz } = await decode(await file.arrayBuffer());
  const cycle = cycleLength(channels[0], sampleRateHz, given);
  const frames = framesFromAudio(channels[0], cycle);
  if (frames.length === 0) throw new FormatError(`the WAV is shorter than one cycle of ${cycle} frames`);
  const asset = await takeWav(new Blob([joined(frames) as BlobPart]));
  return { asset, fileName: plainText(file.name, 200), cycleFrames: CYCLE };
}

function joined(frames: readonly CycleSpectrum[]): Uint8Array {
  const audio = new Float32Array(frames.length * CYCLE);
  frames.forEach((frame, i) => {
    audio.set(cycleOf(frame, CYCLE), i * CYCLE);
  });
  return writeWav([audio], 48000, '32f');
}

/** Writes a table as a WAV of single cycles of 2048 frames. */
export function framesToWav(frames: readonly CycleSpectrum[], name: string): void {
  download(
    `${fileNameOf(name.replace(/\.wave?$/i, ''))}-frames.wav`,
    joined(frames) as BlobPart,
    'audio/wav',
  );
}
