import { placesOf } from '../../schema/places.js';
import { filterShape, type Filter } from './filter-shape.js';
import type { FilterSetting } from '../../dsp/index.js';

/** Where the numbers of a filter that movers may reach stand, from its first. */
export const FILTER = placesOf(filterShape);

/** What of a filter decides how it is built; when it changes the filter is made anew. */
export type FilterForm = Pick<Filter, 'mode' | 'form' | 'slope'>;

/**
 * What a filter does to samples, given the cutoff at the start and the end of the step and its other numbers
 * from `at` on.
 */
export interface FilterCore {
  reset(): void;
  copyFrom(other: FilterCore): void;
  /** Sets it going where it sounds by itself, so that a note need not wait for it. */
  excite?(values: Float64Array, at: number): void;
  process(
    samples: Float64Array,
    from: number,
    to: number,
    cutoff: Float64Array,
    values: Float64Array,
    at: number,
  ): void;
}

/** A kind of filter. */
export interface FilterKind {
  make(form: FilterForm, sampleRateHz: number): FilterCore;
  /** Frames by which it comes late. */
  readonly lateFrames: number;
  /**
   * Magnitude at a frequency, without drive, level and what loudness does to it; null where the kind has
   * none.
   */
  readonly magnitude: ((filter: FilterSetting, hz: number, sampleRateHz: number) => number) | null;
}
