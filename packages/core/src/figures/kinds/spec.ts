import type { SoundDocument, Targets } from '../../document/index.js';
import type { Figure } from '../../measure/index.js';
import type { PassFigures } from '../passes/pass.js';
import type { Verdict } from '../passes/verdict.js';

/** How a figure stands to its targets. */
export interface FigureStanding {
  /** What it is measured over and what it is held against, in a few words. */
  readonly detail: string;
  readonly verdict: Verdict;
  /**
   * "1.3 dB to spare" where it holds, "0.02 under" where it misses its target by less than its number shows;
   * else null.
   */
  readonly margin: string | null;
}

/** What is shown of a figure: its value in the pass where it is worst, that pass, and all of them. */
export interface WorstPass {
  readonly figure: Figure;
  readonly pass: PassFigures;
  readonly passes: readonly PassFigures[];
}

/** A kind of figure: one of those always in view. */
export interface FigureSpec {
  readonly label: string;
  readonly unit: 'dB' | 'LUFS';
  /** Whether its number is written with its sign. */
  readonly signed: boolean;
  /** Those of the sound's targets that Ground offers for it. */
  readonly targets: readonly (keyof Targets)[];
  /** Its value in one pass. */
  measure(pass: PassFigures, document: SoundDocument): Figure;
  /** How bad a value is: of several passes the one with the greatest is shown. */
  badness(value: number, targets: Targets): number;
  stand(shown: WorstPass, document: SoundDocument): FigureStanding;
}
