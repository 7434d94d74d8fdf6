/** Harmonics 1 to `count` of one cycle: amplitudes of sines and of cosines, harmonic n at place n − 1. */
export interface CycleSpectrum {
  readonly sine: Float64Array;
  readonly cosine: Float64Array;
}
