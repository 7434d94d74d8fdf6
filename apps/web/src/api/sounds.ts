import type { SoundDocument } from '@abyssal/core';
import { callJson } from './problem';

export interface SoundSummary {
  readonly id: string;
  readonly version: number;
  readonly name: string;
  readonly author: string;
  readonly tags: readonly string[];
  readonly key: string;
  readonly tempoBpm: number;
  readonly updatedAt: string;
  readonly deletedAt: string | null;
}
export interface KeptSound {
  readonly id: string;
  readonly version: number;
  readonly updatedAt: string;
  readonly document: SoundDocument;
}
export interface SoundPage {
  readonly items: readonly SoundSummary[];
  readonly nextCursor: string | null;
}

export interface SoundQuery {
  readonly search: string;
  readonly sort: string;
  /** Only what was deleted. */
  readonly deleted: boolean;
}

export const listSounds = (
  { search, sort, deleted }: SoundQuery,
  cursor: string | null,
): Promise<SoundPage> => {
  const query = { search, sort, deleted: String(deleted), limit: '40', ...(cursor ? { cursor } : {}) };
  return callJson(`/sounds?${new URLSearchParams(query).toString()}`);
};
export const readSound = (id: string): Promise<KeptSound> => callJson(`/sounds/${id}`);
export const createSound = (document: SoundDocument): Promise<KeptSound> =>
  callJson('/sounds', 'POST', { document });
export const updateSound = (id: string, version: number, document: SoundDocument): Promise<KeptSound> =>
  callJson(`/sounds/${id}`, 'PUT', { document }, { 'If-Match': `"${version}"` });
export const removeSound = (id: string): Promise<void> => callJson(`/sounds/${id}`, 'DELETE');
export const restoreSound = (id: string): Promise<KeptSound> => callJson(`/sounds/${id}/restore`, 'POST');
export const purgeSound = (id: string): Promise<void> => callJson(`/sounds/${id}/purge`, 'DELETE');
