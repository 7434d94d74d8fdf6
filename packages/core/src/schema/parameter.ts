import type { NumberNode } from './schema.js';

/** A row of the parameter table: a number of the document and where it stands. */
export interface Parameter extends NumberNode {
  /** Path with `*` for a place in a list, such as `layers.*.filter.cutoffHz`. */
  readonly id: string;
}
