import type { SoundDocument } from '@abyssal/core';
import { BrowserStore, BrowserStoreError } from './browser-store';

/** Work on a sound that the server does not have yet, as one window wrote it. */
export interface Journal {
  readonly soundId: string;
  /** The window that wrote it, see `window-id`. */
  readonly writer: string;
  readonly document: SoundDocument;
  /** The version of the server's that the work began from. */
  readonly version: number;
  /** When it was written, in ms since 1970. */
  readonly at: number;
  /** The state sent last whose answer never came: the server may have it or not. */
  readonly sent: SoundDocument | null;
}

/** A sound as the server had it when it was opened last, for when the server is away. */
export interface SeenSound {
  readonly document: SoundDocument;
  readonly version: number;
}

/** A recording; `sent` tells whether the server has it. */
export interface KeptRecording {
  readonly bytes: ArrayBuffer;
  readonly sent: boolean;
}

export const journals = new BrowserStore<Journal>('drafts');
export const seenSounds = new BrowserStore<SeenSound>('seen');
export const recordings = new BrowserStore<KeptRecording>('recordings');

/** Lets go of everything that the server has as well. */
async function makeRoom(): Promise<void> {
  await seenSounds.clear();
  for (const hash of await recordings.keys())
    if ((await recordings.get(hash))?.sent) await recordings.delete(hash);
}

/** Does what needs room in the browser; where there is none, makes some and tries once more. */
export async function withRoom(work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    if (!(error instanceof BrowserStoreError && error.full)) throw error;
    await makeRoom();
    await work();
  }
}
