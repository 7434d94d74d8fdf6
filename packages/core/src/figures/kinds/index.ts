import { aliasing } from './aliasing.js';
import { bassToKick } from './bass-to-kick.js';
import { bearingSpread } from './bearing-spread.js';
import { clicks } from './clicks.js';
import { crest } from './crest.js';
import { dc } from './dc.js';
import { evenness } from './evenness.js';
import { foundPitch } from './found-pitch.js';
import { glare } from './glare.js';
import { heard } from './heard.js';
import { highMono } from './high-mono.js';
import { kickLock } from './kick-lock.js';
import { loudness } from './loudness.js';
import { lowMono } from './low-mono.js';
import { masked } from './masked.js';
import { mud } from './mud.js';
import type { FigureSpec, HeardPass } from './spec.js';
import { subAlone } from './sub-alone.js';
import { subToBody } from './sub-to-body.js';
import { wobbles } from './wobbles.js';

/** The figures always in view, in their order there. */
export const IN_VIEW = { kickLock, lowMono, highMono, heard, loudness, evenness } satisfies Record<
  string,
  FigureSpec<HeardPass>
>;

/** The other figures of the report. */
export const REPORT = {
  bassToKick,
  bearingSpread,
  subToBody,
  subAlone,
  mud,
  glare,
  masked,
  foundPitch,
  wobbles,
  clicks,
  crest,
  dc,
  aliasing,
} satisfies Record<string, FigureSpec>;

/** All of them. */
export const FIGURES = { ...IN_VIEW, ...REPORT };

export type FigureId = keyof typeof FIGURES;
/** Their names, in order. */
export const FIGURE_IDS = Object.keys(FIGURES) as readonly FigureId[];
export const IN_VIEW_IDS = Object.keys(IN_VIEW) as readonly FigureId[];
