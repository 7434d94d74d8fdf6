import { explainError, readWav } from '@abyssal/core';
import { expose, transfer } from 'comlink';

/** What a WAV holds, or one sentence that says why it is none. */
export type Decoded =
  | { readonly ok: true; readonly channels: readonly Float32Array[]; readonly sampleRateHz: number }
  | { readonly ok: false; readonly sentence: string };

/** Decodes WAVs away from the page, which a large file would hold up. */
export class Decoder {
  decode(bytes: ArrayBuffer): Decoded {
    try {
      const { channels, sampleRateHz } = readWav(new Uint8Array(bytes));
      const buffers = channels.map((channel) => channel.buffer as ArrayBuffer);
      return transfer({ ok: true, channels, sampleRateHz }, buffers);
    } catch (error) {
      return { ok: false, sentence: explainError(error) ?? 'the WAV could not be decoded' };
    }
  }
}

expose(new Decoder());
