import { Worker } from 'node:worker_threads';
import { Refusal } from '../problem/problem.js';

/** What a WAV is, or one sentence that says why it is none. */
export type Decoded =
  | { readonly ok: true; readonly sampleRateHz: number; readonly channels: number; readonly frames: number }
  | { readonly ok: false; readonly sentence: string };

const LONGEST_MS = 60_000;
const MOST_WAITING = 8;

let last: Promise<unknown> = Promise.resolve();
let waiting = 0;

function run(bytes: Buffer): Promise<Decoded> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./decode.worker.js', import.meta.url), { workerData: bytes });
    const late = setTimeout(() => {
      reject(new Refusal(422, 'too-slow', 'The file took too long to decode; trim it first.'));
      void worker.terminate();
    }, LONGEST_MS);
    worker.once('message', resolve);
    worker.once('error', reject);
    worker.once('exit', () => {
      clearTimeout(late);
    });
  });
}

/** Decodes a WAV away from the thread that answers requests, one at a time; a long queue is refused. */
export async function decodeWav(bytes: Buffer): Promise<Decoded> {
  if (waiting >= MOST_WAITING)
    throw new Refusal(503, 'busy', 'The server is busy with other files; try again in a moment.');
  waiting++;
  const mine = last.then(
    () => run(bytes),
    () => run(bytes),
  );
  last = mine.catch(() => undefined);
  try {
    return await mine;
  } finally {
    waiting--;
  }
}
