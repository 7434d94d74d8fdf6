import type { SoundingFile } from '@abyssal/core';
import { callJson } from './problem';

/** What was measured of a sound or a kept state, as it is kept. */
export interface KeptSounding {
  readonly measured: string;
  readonly content: SoundingFile;
  readonly measuredAt: string;
}

export const readSounding = (owner: string): Promise<KeptSounding> => callJson(`/soundings/${owner}`);
export const keepSounding = (owner: string, measured: string, content: SoundingFile): Promise<void> =>
  callJson(`/soundings/${owner}`, 'PUT', { measured, content });
