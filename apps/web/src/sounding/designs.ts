import type { PlaybackSystem, Through } from '@abyssal/core';
import { wrap, type Remote } from 'comlink';
import type { Designer } from './design.worker';

/** Most designs that are kept, a MB each. */
const MOST = 24;

let designer: Remote<Designer> | null = null;
const kept = new Map<string, Promise<Through>>();

/** How sound goes through a system at a sample rate, unmatched: made once by a worker, then at hand. */
export function designOf(system: PlaybackSystem, sampleRateHz: number): Promise<Through> {
  const key = JSON.stringify([system, sampleRateHz]);
  let found = kept.get(key);
  if (!found) {
    designer ??= wrap<Designer>(
      new Worker(new URL('./design.worker.ts', import.meta.url), { type: 'module' }),
    );
    found = designer.design(system, sampleRateHz);
    found.catch(() => kept.delete(key));
    if (kept.size >= MOST) kept.clear();
    kept.set(key, found);
  }
  return found;
}
