import { explainError, readWav } from '@abyssal/core';
import type { Decoded } from './decode.js';

/** Decodes a WAV to its end on a thread of its own, and tells what it is or why it is none. */
export default function decode(bytes: Uint8Array): Decoded {
  try {
    const { sampleRateHz, channels } = readWav(bytes);
    return { ok: true, sampleRateHz, channels: channels.length, frames: channels[0].length };
  } catch (error) {
    const sentence = explainError(error);
    if (sentence === null) throw error;
    return { ok: false, sentence };
  }
}
