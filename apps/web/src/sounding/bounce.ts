import { assetsOf, type Ground, type SoundDocument, type Stems, type WavBits } from '@abyssal/core';
import { recording } from '../state/recordings';
import type { FromSounding, SentAssets, ToSounding } from './protocol';

export interface BounceOptions { readonly sampleRateHz: number; readonly bits: WavBits; readonly stems: Stems }

/** A bounce under way, on a worker of its own. */
export interface Bounce { readonly files: Promise<readonly { readonly name: string; readonly bytes: Uint8Array }[]>; cancel(): void }

/** Whether a bounce was refused because it was cancelled. */
export const wasCancelled = (error: unknown) => error instanceof DOMException && error.name === 'AbortError';

/** Renders a sound to WAV files as `ask` says. `onProgress` is told the share done, 0 to 1. The promise is rejected when it is cancelled. */
function start(document: SoundDocument, ask: (assets: SentAssets) => ToSounding, onProgress: (done: number) => void): Bounce {
  const worker = new Worker(new URL('./sounding.worker.ts', import.meta.url), { type: 'module' });
  let refuse: (error: Error) => void = () => undefined;
  const files = new Promise<readonly { name: string; bytes: Uint8Array }[]>((resolve, reject) => {
    refuse = reject;
    worker.onmessage = ({ data }: MessageEvent<FromSounding>) => {
      if (data.kind === 'progress') onProgress(data.done);
      else if (data.kind === 'bounced') resolve(data.files);
      else if (data.kind === 'failed') reject(new Error(data.message));
    };
    worker.onerror = () => { reject(new Error('the bounce failed')); };
    void Promise.all(assetsOf(document).map(async (hash) => [hash, await recording(hash)] as const)).then((assets) => {
      worker.postMessage(ask(assets));
    }, reject);
  }).finally(() => { worker.terminate(); });
  return { files, cancel: () => { worker.terminate(); refuse(new DOMException('cancelled', 'AbortError')); } };
}

/** Renders the loop of a sound, and its stems where they are wanted. */
export function startBounce(document: SoundDocument, options: BounceOptions, onProgress: (done: number) => void): Bounce {
  return start(document, (assets) => ({ kind: 'bounce', job: 1, document, assets, ...options }), onProgress);
}

/** Renders the bass of a sound as a backing part of another that has this tempo and length. */
export function startBacking(document: SoundDocument, under: Pick<Ground, 'tempoBpm' | 'bars'>, onProgress: (done: number) => void): Bounce {
  return start(document, (assets) => ({ kind: 'backing', job: 1, document, assets, under }), onProgress);
}

/** Hands a file to the person. */
export function download(name: string, bytes: BlobPart, type: string): void {
  const url = URL.createObjectURL(new Blob([bytes], { type }));
  const link = Object.assign(document.createElement('a'), { href: url, download: name });
  link.click();
  setTimeout(() => { URL.revokeObjectURL(url); }, 10_000);
}
