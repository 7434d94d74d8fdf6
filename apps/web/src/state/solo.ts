import type { SoundDocument } from '@abyssal/core';

/**
 * A sound as it is heard while some of its layers or tones are listened to alone: the others are off. A tone
 * is named `layer id.number from 0`.
 */
export function soloed(document: SoundDocument, solo: readonly string[]): SoundDocument {
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
