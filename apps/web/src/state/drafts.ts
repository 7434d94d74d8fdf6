import type { SoundDocument } from '@abyssal/core';
import { createStore, get, set } from 'idb-keyval';

/** A sound as the browser keeps it: the last state seen, and whether the server has it. */
export interface KeptDraft {
  readonly document: SoundDocument;
  readonly version: number;
  readonly dirty: boolean;
  readonly at: number;
  /** The state sent last whose answer never came: the server may have it or not. */
  readonly sent: SoundDocument | null;
}

const drafts = createStore('abyssal-drafts', 'drafts');
const recordings = createStore('abyssal-recordings', 'recordings');
const lastWords = (id: string) => `abyssal draft ${id}`;

/** Writes one draft after another: while one is being written, only the newest waits. */
const waiting = new Map<string, KeptDraft>();
let writing: Promise<void> | null = null;

async function writeAll(): Promise<void> {
  while (waiting.size > 0) {
    const [[id, draft]] = waiting;
    waiting.delete(id);
    await set(id, draft, drafts);
    localStorage.removeItem(lastWords(id));
  }
  writing = null;
}

export function keepDraft(id: string, draft: KeptDraft): Promise<void> {
  waiting.set(id, draft);
  writing ??= writeAll();
  return writing;
}

/** Keeps a draft at once, for a page that is going away and cannot wait. */
export function keepDraftNow(id: string, draft: KeptDraft): void {
  try {
    localStorage.setItem(lastWords(id), JSON.stringify(draft));
  } catch {
    // Storage is full: the copy in IndexedDB, at most one change older, remains.
  }
}

export async function readDraft(id: string): Promise<KeptDraft | null> {
  const kept = (await get<KeptDraft>(id, drafts).catch(() => undefined)) ?? null;
  const text = localStorage.getItem(lastWords(id));
  const last = text === null ? null : (JSON.parse(text) as KeptDraft);
  return last && (!kept || last.at >= kept.at) ? last : kept;
}

/** A recording kept in the browser; `sent` tells whether the server has it. */
export interface KeptRecording {
  readonly bytes: ArrayBuffer;
  readonly sent: boolean;
}

export const keepRecording = (hash: string, recording: KeptRecording): Promise<void> =>
  set(hash, recording, recordings);
export const readKeptRecording = (hash: string): Promise<KeptRecording | undefined> =>
  get<KeptRecording>(hash, recordings);
