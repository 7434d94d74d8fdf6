import { bassToKick } from './bass-to-kick.js';
import { evenness } from './evenness.js';
import { highMono } from './high-mono.js';
import { kickLock } from './kick-lock.js';
import { loudness } from './loudness.js';
import { lowMono } from './low-mono.js';
import type { FigureSpec } from './spec.js';

/** The figures always in view, in their order there. */
export const FIGURES = { kickLock, lowMono, highMono, loudness, evenness, bassToKick } satisfies Record<
  string,
  FigureSpec
>;

export type FigureId = keyof typeof FIGURES;
/** Their names, in order. */
export const FIGURE_IDS = Object.keys(FIGURES) as readonly FigureId[];
