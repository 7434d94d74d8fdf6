import type { SoundDocument } from '../document/index.js';
import { systemsOf } from '../translation/index.js';
import { depthOf, type DepthSignals, type DepthSpectra } from './depth.js';
import { systemsByNotes } from './passes/systems-by-notes.js';
import type { LoopLook } from './tone/look.js';

/** What the figures in view and the depth chart need of a loop's spectra: for a host that looks for it beside the rest. */
export interface LoopSpectra extends Pick<LoopLook, 'heard'> {
  readonly depth: DepthSpectra;
}

/** What of a rendered loop is looked at. */
export type SpectraSignals = DepthSignals & { readonly frames: number };

/** The spectra of a rendered loop. */
export const spectraOf = (document: SoundDocument, signals: SpectraSignals): LoopSpectra => ({
  depth: depthOf(signals),
  heard: systemsByNotes(document, signals, systemsOf(document)),
});
