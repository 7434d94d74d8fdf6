import { explainError, readSoundFile, readWav, type DecodedWav, type SoundFile } from '@abyssal/core';
import { expose, transfer } from 'comlink';

/** What a file holds, or one sentence that says why it cannot be taken. */
export type Read<T> = ({ readonly ok: true } & T) | { readonly ok: false; readonly sentence: string };

export type Samples = Pick<DecodedWav, 'channels' | 'sampleRateHz'>;

/** Reads files away from the page, which a large one would hold up. */
export class FileDecoder {
  decode(bytes: ArrayBuffer): Read<Samples> {
    try {
      const { channels, sampleRateHz } = readWav(new Uint8Array(bytes));
      const buffers = channels.map((channel) => channel.buffer as ArrayBuffer);
      return transfer({ ok: true, channels, sampleRateHz }, buffers);
    } catch (error) {
      return { ok: false, sentence: explainError(error) ?? 'the WAV could not be decoded' };
    }
  }

  soundFile(text: string): Read<SoundFile> {
    try {
      return { ok: true, ...readSoundFile(text) };
    } catch (error) {
      return { ok: false, sentence: explainError(error) ?? 'the sound file could not be read' };
    }
  }
}

expose(new FileDecoder());
