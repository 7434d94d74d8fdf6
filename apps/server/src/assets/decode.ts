import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { Refusal } from '../problem/problem.js';

/** What a WAV is, or one sentence that says why it is none. */
export type Decoded =
  | { readonly ok: true; readonly sampleRateHz: number; readonly channels: number; readonly frames: number }
  | { readonly ok: false; readonly sentence: string };

const LONGEST_MS = 60_000;

/** Threads, begun when files come and ended when none has come for a while; one that takes too long is replaced. */
const pool = new Piscina<string, Decoded>({
  filename: fileURLToPath(new URL('./decode.worker.js', import.meta.url)),
  minThreads: 0,
  maxThreads: 2,
  idleTimeout: 10_000,
});

/** Decodes a WAV away from the thread that answers requests, beside others. */
export async function decodeWav(path: string): Promise<Decoded> {
  try {
    return await pool.run(path, { signal: AbortSignal.timeout(LONGEST_MS) });
  } catch (error) {
    if (error instanceof Error && error.name === 'AbortError')
      throw new Refusal(422, 'too-slow', 'The file took too long to decode; trim it first.');
    throw error;
  }
}

/** Ends the threads. */
export const endDecoding = () => pool.destroy();
