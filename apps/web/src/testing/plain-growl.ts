import { trenchGrowl, type SoundDocument } from '@abyssal/core';

/** Trench Growl with no more than a soft clip above its clean path. */
export function plainGrowl(): SoundDocument {
  const sound = structuredClone(trenchGrowl());
  sound.links = sound.links.filter(({ target }) => !target.startsWith('units.'));
  sound.grit.bands.splice(1);
  sound.grit.after = [];
  return sound;
}
