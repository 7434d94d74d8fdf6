import { MOST_BACKING } from '../../document/index.js';
import { BY_PART } from '../../kinds/movers/index.js';

/** Whose levels movers may be told: the layer itself, the kick, every backing part. */
export const LISTENED = BY_PART + MOST_BACKING;

/** What movers hear of the kick and the backing parts, for each control step of a block. */
export interface Heard {
  /** Peak of each, linear: step after step, `LISTENED` numbers each. */
  readonly levels: Float64Array;
  /** Whether it strikes in that step, in the same order. */
  readonly strikes: Uint8Array;
}
