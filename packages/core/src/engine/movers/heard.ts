import { MOST_BACKING } from '../../document/index.js';
import { BY_PART } from '../../kinds/movers/index.js';

/** Whose levels movers may be told: the layer itself, the kick, every backing part. */
export const LISTENED = BY_PART + MOST_BACKING;

/** What movers hear of the kick and the backing parts, for each control step of a block. */
export interface Heard {
  /** Whom they listen to, by the places of their levels. */
  readonly listened: Int32Array;
  /** Peak of each of these, linear, step after step. */
  readonly levels: Float64Array;
  /** Whether it strikes in that step, in the same order. */
  readonly strikes: Uint8Array;
  /** Which of the steps is the first of this block. */
  readonly first: Int32Array;
}
