import { trenchGrowl } from '../demo/index.js';
import type { SoundDocument } from '../document/index.js';

/** Trench Growl with no more than a soft clip above its clean path: quick to render. */
export function plainGrowl(): SoundDocument {
  const sound = trenchGrowl();
  return {
    ...sound,
    links: sound.links.filter(({ target }) => !target.startsWith('units.')),
    grit: { ...sound.grit, bands: sound.grit.bands.slice(0, 1), after: [] },
  };
}
