import type { SoundDocument } from '@abyssal/core';

/** Whether two states of a sound are alike in every value. */
export const sameDocument = (a: SoundDocument | null, b: SoundDocument): boolean =>
  a !== null && JSON.stringify(a) === JSON.stringify(b);
