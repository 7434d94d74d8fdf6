import type { SoundDocument, Targets } from '../../document/index.js';
import type { Figure } from '../../measure/index.js';
import { marginText } from '../../units/index.js';
import type { PassFigures } from '../passes/pass.js';
import { atLeast, atMost, worse, type Verdict } from '../passes/verdict.js';
import type { LoopLook } from '../tone/look.js';

/** One pass of a loop with what is heard of it on systems; and with all that is found of it. */
export type HeardPass = PassFigures & Pick<LoopLook, 'heard'>;
export type WholePass = PassFigures & LoopLook;

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
  /** By how much it misses what holds, as a share of what is only watched: 0 at its target, 1 where it falls short. */
  readonly miss: number | null;
  /** Of how many it is a count: “6 of 7”. */
  readonly outOf?: number;
}

/** What is shown of a figure: its value in the pass where it is worst, that pass, and all of them. */
export interface WorstPass<P> {
  readonly figure: Figure;
  readonly pass: P;
  readonly passes: readonly P[];
}

/** A kind of figure. `P` is what it needs of a pass. */
export interface FigureSpec<P = WholePass> {
  readonly label: string;
  readonly unit: 'dB' | 'LUFS' | 'dBFS' | 'ct' | '%' | '°' | '';
  /** Whether its number is written with its sign; and with how many places. */
  readonly signed: boolean;
  readonly digits?: number;
  /** Those of the sound's targets that may be edited where it stands: what holds, then what is watched. */
  readonly targets: readonly (keyof Targets)[];
  /** What it means and what it comes from, in a sentence. */
  readonly means: string;
  /** Its value in one pass. */
  measure(pass: P, document: SoundDocument): Figure;
  /** How bad a value is: of several passes the one with the greatest is shown. */
  badness(value: number, targets: Targets): number;
  stand(shown: WorstPass<P>, document: SoundDocument): FigureStanding;
}

/** What holds, and what is only watched. */
export interface Bounds {
  readonly least?: readonly [holds: number, watch: number];
  readonly most?: readonly [holds: number, watch: number];
}

const share = (off: number, width: number) =>
  width > 0 ? off / width : off > 0 ? Infinity : off < 0 ? -Infinity : 0;

/** By how much a value misses its bounds, as a share of what is only watched; below 0 where it holds. */
export function missOf(value: number | null, { least, most }: Bounds): number | null {
  if (value === null) return null;
  return Math.max(
    least ? share(least[0] - value, least[0] - least[1]) : -Infinity,
    most ? share(value - most[0], most[1] - most[0]) : -Infinity,
  );
}

/** How a value stands to its bounds. */
export function standWithin(
  value: number | null,
  bounds: Bounds,
  detail: string,
  unit?: string,
  digits?: number,
): FigureStanding {
  const { least, most } = bounds;
  return {
    detail,
    verdict: worse(least ? atLeast(value, ...least) : 'unknown', most ? atMost(value, ...most) : 'unknown'),
    margin: marginText(value, { least: least?.[0], most: most?.[0] }, unit, digits),
    miss: missOf(value, bounds),
  };
}
