import {
  assetsOf,
  type Ground,
  type SoundDocument,
  type Stems,
  type Stereo,
  type WavBits,
} from '@abyssal/core';
import { recording } from '../state/recordings';
import type { FromSounding, SentAssets, ToSounding } from './protocol';

export interface BounceOptions {
  readonly sampleRateHz: number;
  readonly bits: WavBits;
  readonly stems: Stems;
}

/** A file as it is handed out. */
export interface BouncedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** A bounce under way, on a worker of its own. */
export interface Bounce {
  readonly files: Promise<readonly BouncedFile[]>;
  readonly cancel: () => void;
}

/** Whether a bounce was refused because it was cancelled. */
export const wasCancelled = (error: unknown) => error instanceof DOMException && error.name === 'AbortError';

/**
 * Renders on a worker as `ask` says; `answer` takes what is wanted out of what the worker says. `onProgress`
 * is told the share done, 0 to 1. The promise is rejected when it is cancelled.
 */
function start<T>(
  document: SoundDocument,
  ask: (assets: SentAssets) => ToSounding,
  answer: (said: FromSounding) => T | undefined,
  onProgress: (done: number) => void,
): { readonly result: Promise<T>; readonly cancel: () => void } {
  const worker = new Worker(new URL('./sounding.worker.ts', import.meta.url), { type: 'module' });
  let refuse: (error: Error) => void = () => undefined;
  const result = new Promise<T>((resolve, reject) => {
    refuse = reject;
    worker.onmessage = ({ data }: MessageEvent<FromSounding>) => {
      const found = answer(data);
      if (data.kind === 'progress') onProgress(data.done);
      else if (found !== undefined) resolve(found);
      else if (data.kind === 'failed') reject(new Error(data.message));
    };
    worker.onerror = () => {
      reject(new Error('the render failed'));
    };
    void Promise.all(assetsOf(document).map(async (hash) => [hash, await recording(hash)] as const)).then(
      (assets) => {
        worker.postMessage(ask(assets));
      },
      reject,
    );
  }).finally(() => {
    worker.terminate();
  });
  return {
    result,
    cancel: () => {
      worker.terminate();
      refuse(new DOMException('cancelled', 'AbortError'));
    },
  };
}

const filesOf = (said: FromSounding) => (said.kind === 'bounced' ? said.files : undefined);

/** Renders the loop of a sound, and its stems where they are wanted. */
export function startBounce(
  document: SoundDocument,
  options: BounceOptions,
  onProgress: (done: number) => void,
): Bounce {
  const { result, cancel } = start(
    document,
    (assets) => ({ kind: 'bounce', job: 1, document, assets, ...options }),
    filesOf,
    onProgress,
  );
  return { files: result, cancel };
}

/** Renders the bass of a sound as a backing part of another that has this tempo and length. */
export function startBacking(
  document: SoundDocument,
  under: Pick<Ground, 'tempoBpm' | 'bars'>,
  onProgress: (done: number) => void,
): Bounce {
  const { result, cancel } = start(
    document,
    (assets) => ({ kind: 'backing', job: 1, document, assets, under }),
    filesOf,
    onProgress,
  );
  return { files: result, cancel };
}

/** Renders a layer's own loop at the rate of the audio thread. */
export function startFreeze(
  document: SoundDocument,
  layerId: string,
  sampleRateHz: number,
  onProgress: (done: number) => void,
): { readonly stereo: Promise<Stereo>; readonly cancel: () => void } {
  const { result, cancel } = start(
    document,
    (assets) => ({ kind: 'freeze', job: 1, document, assets, layerId, sampleRateHz }),
    (said) => (said.kind === 'frozen' ? said.stereo : undefined),
    onProgress,
  );
  return { stereo: result, cancel };
}

/** Hands a file to the person. */
export function download(name: string, bytes: BlobPart, type: string): void {
  const url = URL.createObjectURL(new Blob([bytes], { type }));
  const link = Object.assign(document.createElement('a'), { href: url, download: name });
  link.click();
  setTimeout(() => {
    URL.revokeObjectURL(url);
  }, 10_000);
}
