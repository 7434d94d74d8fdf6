import type { SoundDocument } from '../document/index.js';
import type { LoopRender } from '../engine/index.js';
import { SYSTEMS } from '../translation/index.js';
import { depthOf, type DepthSignals, type DepthSpectra } from './depth.js';
import { systemsByNotes, type NoteOnSystems } from './passes/systems-by-notes.js';

/** What is found in a loop's spectra: for a host that looks for it beside the figures. */
export interface LoopSpectra {
  readonly depth: DepthSpectra;
  /** What a listener gets of each note of the line, on each of `SYSTEMS`. */
  readonly heard: readonly NoteOnSystems[];
}

/** What of a rendered loop is looked at. */
export type SpectraSignals = DepthSignals & Pick<LoopRender, 'frames'>;

/** The spectra of a rendered loop. */
export const spectraOf = (document: SoundDocument, signals: SpectraSignals): LoopSpectra => ({
  depth: depthOf(signals),
  heard: systemsByNotes(document, signals, SYSTEMS),
});
