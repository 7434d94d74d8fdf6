import type { SoundDocument } from './shape.js';

/** Parts of a sound that nobody hears, and of which no figure depends. */
export const UNHEARD_PARTS = [
  'name',
  'author',
  'tags',
  'drawStep',
] as const satisfies readonly (keyof SoundDocument)[];

/** Whether nobody hears a part of a sound. */
export const isUnheard = (part: string): boolean => (UNHEARD_PARTS as readonly string[]).includes(part);
