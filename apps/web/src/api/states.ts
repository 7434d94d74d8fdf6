import type { SoundDocument, SoundingFile } from '@abyssal/core';
import { callJson } from './problem';

export interface StateSummary {
  readonly id: string;
  readonly name: string;
  readonly keptAt: string;
  /** What was measured of it; empty before. */
  readonly figures: readonly Pick<
    SoundingFile['figures'][number],
    'id' | 'label' | 'unit' | 'value' | 'outOf' | 'verdict'
  >[];
}
export interface KeptState extends StateSummary {
  readonly document: SoundDocument;
}

const path = (sound: string, id = '') => `/sounds/${sound}/states${id === '' ? '' : `/${id}`}`;

export const listStates = (sound: string): Promise<StateSummary[]> => callJson(path(sound));
export const readState = (sound: string, id: string): Promise<KeptState> => callJson(path(sound, id));
export const keepState = (sound: string, name: string, document: SoundDocument): Promise<KeptState> =>
  callJson(path(sound), 'POST', { name, document });
export const removeState = (sound: string, id: string): Promise<void> => callJson(path(sound, id), 'DELETE');
export const restoreState = (sound: string, id: string): Promise<KeptState> =>
  callJson(`${path(sound, id)}/restore`, 'POST');
