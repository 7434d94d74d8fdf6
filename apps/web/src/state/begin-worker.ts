/** A worker that reads files. */
export const beginWorker = (): Worker =>
  new Worker(new URL('./decode.worker.ts', import.meta.url), { type: 'module' });
