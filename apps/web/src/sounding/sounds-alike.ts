import { isUnheard, UNHEARD_PARTS, type SoundDocument } from '@abyssal/core';

/**
 * Whether two states of a sound differ in nothing that is heard or measured: parts that an edit leaves alone
 * stay the same objects.
 */
export const soundsAlike = (a: SoundDocument, b: SoundDocument): boolean =>
  (Object.keys(a) as (keyof SoundDocument)[]).every((part) => isUnheard(part) || a[part] === b[part]);

/** A state of a sound with all that nobody hears as another one has it. */
export const withUnheardOf = (document: SoundDocument, other: SoundDocument): SoundDocument => ({
  ...document,
  ...Object.fromEntries(UNHEARD_PARTS.map((part) => [part, other[part]])),
});
