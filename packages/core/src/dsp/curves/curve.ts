/**
 * A curve without memory in antiderivative form: it gives the mean of the curve between two samples instead of
 * its value at one, so that less of what it makes folds back. First order: Parker, Zavalishin and Le Bivic,
 * Reducing the aliasing of nonlinear waveshaping using continuous-time convolution (2016); second order, the
 * mean under a triangle: Bilbao, Esqueda, Parker and Välimäki, Antiderivative antialiasing for memoryless
 * nonlinearities (2017).
 */
export interface Curve {
  /** Samples by which it comes late: half a sample for each order. */
  readonly lateSamples: number;
  /** The curve at a place, as it is set now; not for the block path. */
  at(x: number): number;
  /** Sets what kinds of curve have to set, where they have. */
  set?(numbers: Float64Array): void;
  reset(): void;
  copyFrom(other: Curve): void;
  /** Bends `count` samples in place. */
  process(samples: Float64Array, count: number): void;
}

/** Samples closer than this are taken as one in a quotient of differences. */
export const CLOSE = 1e-5;
/** The same for second differences. */
export const CLOSE_TWO = 1e-3;
