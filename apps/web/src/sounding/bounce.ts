import {
  assetsOf,
  type ComparedLoop,
  type Ground,
  type MendProgress,
  type Mends,
  type Recording,
  type SoundDocument,
  type Stereo,
} from '@abyssal/core';
import { proxy, wrap, type Remote } from 'comlink';
import { recording } from '../state/recordings';
import type { BouncedFile, BounceOptions, MendedSound, OnProgress, SentAssets } from './render-types';
import type { Renderer } from './render.worker';

/** A render under way, on a worker of its own; the promise is rejected when it is cancelled. */
export interface Render<T> {
  readonly result: Promise<T>;
  readonly cancel: () => void;
}

/** Whether a render was refused because it was cancelled. */
export const wasCancelled = (error: unknown) => error instanceof DOMException && error.name === 'AbortError';

const sentAssets = (document: SoundDocument): Promise<SentAssets> =>
  Promise.all(assetsOf(document).map(async (hash) => [hash, await recording(hash)] as const));

/** Renders on a worker as `ask` says. */
function start<T>(
  document: SoundDocument,
  ask: (renderer: Remote<Renderer>, assets: SentAssets) => Promise<T>,
): Render<T> {
  const worker = new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' });
  let refuse: (error: Error) => void = () => undefined;
  const result = new Promise<T>((resolve, reject) => {
    refuse = reject;
    worker.onerror = () => {
      reject(new Error('the render failed'));
    };
    sentAssets(document)
      .then((assets) => ask(wrap<Renderer>(worker), assets))
      .then(resolve, reject);
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

/** Renders the loop of a sound, and its stems where they are wanted. */
export const startBounce = (
  document: SoundDocument,
  options: BounceOptions,
  onProgress: OnProgress,
): Render<readonly BouncedFile[]> =>
  start(document, (renderer, assets) => renderer.bounce(document, assets, options, proxy(onProgress)));

/** Renders the bass of a sound as a backing part of another that has this tempo and length. */
export const startBacking = (
  document: SoundDocument,
  under: Pick<Ground, 'tempoBpm' | 'bars'>,
  onProgress: OnProgress,
): Render<readonly BouncedFile[]> =>
  start(document, (renderer, assets) => renderer.backing(document, assets, under, proxy(onProgress)));

/** Renders a kept state or another sound, to be heard in the place of the open one. */
export const startCompared = (
  document: SoundDocument,
  under: Pick<SoundDocument, 'ground' | 'backing'>,
  sampleRateHz: number,
  onProgress: OnProgress,
): Render<ComparedLoop> =>
  start({ ...document, backing: under.backing }, (renderer, assets) =>
    renderer.compared(document, assets, under, sampleRateHz, proxy(onProgress)),
  );

/** Takes a recording to be heard in the place of the open sound, of which `document` is. */
export const startComparedRecording = (
  document: SoundDocument,
  recording: Recording,
  sampleRateHz: number,
): Render<ComparedLoop> => start(document, (renderer) => renderer.comparedRecording(recording, sampleRateHz));

/** Looks for what may be done about the figures of a sound that do not hold. */
export const startMends = (document: SoundDocument, tell: (told: MendProgress) => void): Render<Mends> =>
  start(document, (renderer, assets) => renderer.mends(document, assets, proxy(tell)));

/** Mends a sound as far as that goes without harm. */
export const startMendAll = (document: SoundDocument, onProgress: OnProgress): Render<MendedSound> =>
  start(document, (renderer, assets) => renderer.mendAll(document, assets, proxy(onProgress)));

/** Renders a layer's own loop at the rate of the audio thread. */
export const startFreeze = (
  document: SoundDocument,
  layerId: string,
  sampleRateHz: number,
  onProgress: OnProgress,
): Render<Stereo> =>
  start(document, (renderer, assets) =>
    renderer.freeze(document, assets, layerId, sampleRateHz, proxy(onProgress)),
  );

/** Hands a file to the person. */
export function download(name: string, bytes: BlobPart, type: string): void {
  const url = URL.createObjectURL(new Blob([bytes], { type }));
  const link = Object.assign(document.createElement('a'), { href: url, download: name });
  link.click();
  setTimeout(() => {
    URL.revokeObjectURL(url);
  }, 10_000);
}
