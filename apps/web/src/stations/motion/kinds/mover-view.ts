import type { MoverKind, MoverOf } from '@abyssal/core';
import type { ComponentType } from 'react';

/** What a kind of mover brings to the pages. */
export interface MoverView<K extends MoverKind> {
  /** What the kind is called, and what it is for, in the list from which it is added. */
  readonly name: string;
  readonly help: string;
  /** Its settings; `index` is its place among the movers. */
  readonly Panel: ComponentType<{ readonly index: number; readonly mover: MoverOf<K> }>;
  /** What it does, in a few words. */
  readonly summary: (mover: MoverOf<K>) => string;
  /** Whether the notes of the line are drawn with its course as their outline. */
  readonly outlinesNotes: boolean;
}
