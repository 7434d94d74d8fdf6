import type { SoundDocument } from '../../document/index.js';
import type { Assets } from '../../engine/index.js';
import { systemsOf } from '../../translation/index.js';
import { systemsByNotes, type NoteOnSystems } from '../passes/systems-by-notes.js';
import { toneOf, type ToneFigures, type ToneSignals } from './tone-of.js';

/** What is found in a loop's spectra: for a host that looks for it beside the rest. */
export interface LoopLook {
  /** What a listener gets of each note of the line, on each of `systemsOf` the sound. */
  readonly heard: readonly NoteOnSystems[];
  readonly tone: ToneFigures;
}

/** What is found in the spectra of a rendered loop, but for the levels by depth. */
export const lookOf = (
  document: SoundDocument,
  signals: ToneSignals,
  assets?: Assets,
  brief = false,
): LoopLook => ({
  heard: systemsByNotes(document, signals, systemsOf(document)),
  tone: toneOf(document, signals, assets, brief),
});
