import { freezeKey, type SoundDocument, type Stereo } from '@abyssal/core';
import { create } from 'zustand';

interface FrozenLayer {
  readonly key: string;
  readonly sampleRateHz: number;
  readonly stereo: Stereo;
}

/**
 * Layers that play back their own render of the loop, by id, and the share done of those that are being
 * rendered. Belongs to the open sound, and to this session: a sound that is opened anew plays every layer.
 */
export interface Freezes {
  readonly frozen: ReadonlyMap<string, FrozenLayer>;
  readonly making: ReadonlyMap<string, number>;
}

export const useFreezes = create<Freezes>(() => ({ frozen: new Map(), making: new Map() }));

/**
 * The layers that may play back their render in a document: those whose render is still what they would play.
 */
export function frozenIn(document: SoundDocument): Map<string, Stereo> {
  const valid = [...useFreezes.getState().frozen].filter(
    ([id, { key, sampleRateHz }]) =>
      document.layers.some((layer) => layer.id === id) && freezeKey(document, id, sampleRateHz) === key,
  );
  return new Map(valid.map(([id, { stereo }]) => [id, stereo]));
}
