import type { SoundDocument } from '@abyssal/core';

/** Parts of a document that nobody hears. */
const UNHEARD = ['name', 'author', 'tags', 'drawStep'] as const satisfies readonly (keyof SoundDocument)[];

/**
 * Whether two states of a sound differ in nothing that is heard or measured: parts that an edit leaves alone
 * stay the same objects.
 */
export function soundsAlike(a: SoundDocument, b: SoundDocument): boolean {
  const unheard: readonly string[] = UNHEARD;
  return (Object.keys(a) as (keyof SoundDocument)[]).every(
    (part) => unheard.includes(part) || a[part] === b[part],
  );
}

/** A state of a sound with all that nobody hears as another one has it. */
export function withUnheardOf(document: SoundDocument, other: SoundDocument): SoundDocument {
  const { name, author, tags, drawStep } = other;
  return { ...document, name, author, tags, drawStep };
}
