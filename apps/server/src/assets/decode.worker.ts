import { readFileSync } from 'node:fs';
import { checkWav, explainError } from '@abyssal/core';
import type { Decoded } from './decode.js';

/** Decodes a WAV to its end on a thread of its own, and tells what it is or why it is none. */
export default function decode(path: string): Decoded {
  try {
    return { ok: true, ...checkWav(readFileSync(path)) };
  } catch (error) {
    const sentence = explainError(error);
    if (sentence === null) throw error;
    return { ok: false, sentence };
  }
}
