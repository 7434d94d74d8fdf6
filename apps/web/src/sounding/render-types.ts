import type { Mended, Recording, SoundDocument, Stems, WavBits } from '@abyssal/core';

/** Recordings by hash. */
export type SentAssets = readonly (readonly [string, Recording])[];

export interface BounceOptions {
  readonly sampleRateHz: number;
  readonly bits: WavBits;
  readonly stems: Stems;
}

/** A file as it is handed out. */
export interface BouncedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** Is told the share done, 0 to 1. */
export type OnProgress = (done: number) => void;

/** A sound that was mended, what was done in words, and the figures that still do not hold with what stands against it. */
export interface MendedSound {
  readonly document: SoundDocument;
  readonly titles: readonly string[];
  readonly left: Mended['left'];
}
