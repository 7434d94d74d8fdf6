import type { SoundDocument } from '@abyssal/core';

/** What a band is called among what is listened to alone, and the clean path. */
export const bandSolo = (id: string) => `band ${id}`;
export const CLEAN_SOLO = 'clean path';
/** As good as nothing, and still a number. */
const SILENT_DB = -200;

/** A sound as it is heard while some of its bands are listened to alone. */
function bandsSoloed(document: SoundDocument, solo: readonly string[]): SoundDocument {
  const { grit } = document;
  const bands = grit.bands.filter(({ id }) => solo.includes(bandSolo(id)));
  const clean = grit.cleanPath.on && solo.includes(CLEAN_SOLO);
  if (bands.length === 0 && !clean) return document;
  return {
    ...document,
    grit: {
      ...grit,
      cleanPath: clean ? grit.cleanPath : { ...grit.cleanPath, levelDb: SILENT_DB },
      bands: grit.bands.map((band) => (bands.includes(band) ? band : { ...band, on: false })),
    },
  };
}

/**
 * A sound as it is heard while some of its layers, tones or bands are listened to alone: the others are off. A tone
 * is named `layer id.number from 0`.
 */
export function soloed(written: SoundDocument, solo: readonly string[]): SoundDocument {
  const document = bandsSoloed(written, solo);
  const wanted = solo.filter((name) => document.layers.some(({ id }) => id === name.split('.')[0]));
  if (wanted.length === 0) return document;
  return {
    ...document,
    layers: document.layers.map((layer) => {
      const tones = wanted
        .filter((name) => name.startsWith(`${layer.id}.`))
        .map((name) => Number(name.split('.')[1]));
      const heard = wanted.includes(layer.id) || tones.length > 0;
      if (!heard) return { ...layer, on: false };
      return tones.length === 0
        ? layer
        : {
            ...layer,
            tones: layer.tones.map((tone, t) => (tones.includes(t) ? tone : { ...tone, on: false })),
          };
    }),
  };
}

/** Adds a name to what is listened to alone, or takes it out. */
export function toggleSolo(solo: readonly string[], name: string): string[] {
  return solo.includes(name) ? solo.filter((other) => other !== name) : [...solo, name];
}
