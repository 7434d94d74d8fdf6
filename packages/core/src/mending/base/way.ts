import type { SoundDocument } from '../../document/index.js';
import type { FigureId, JudgedFigure } from '../../figures/index.js';
import type { SoundState } from './sound-state.js';

/** A way to change a sound: nothing at amount 0, the most of it at 1. */
export interface Way {
  /** A word for it, such as `octave-layer`. */
  readonly id: string;
  /** What it does at an amount, in a few words: “Open Body’s filter by 1.2 octaves”. */
  title(amount: number): string;
  /** The sound with it at an amount. */
  apply(amount: number): SoundDocument;
}

/** A kind of mend: what may be done about some of the figures. */
export interface MendKind {
  /** The figures that it is for. */
  readonly figures: readonly FigureId[];
  /** Ways to try, of which each is turned up no further than the figure needs. */
  ways(state: SoundState, figure: JudgedFigure): readonly Way[];
  /** What stands against it where none of them reaches the target, and what to change by hand. */
  against(state: SoundState, figure: JudgedFigure): string;
}
