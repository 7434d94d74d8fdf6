/**
 * Harmonic series of a wave: amplitude of the sine of harmonic n (n ≥ 1) in a wave that swings between −1 and
 * 1.
 */
export type Series = (n: number) => number;

/** One harmonic: amplitudes of its sine and its cosine. */
export interface Harmonic {
  readonly sine: number;
  readonly cosine: number;
}

/**
 * Fourier series of the classic waves, all of sines, so that every wave starts with its fundamental at phase
 * 0.
 */
export const SERIES = {
  sine: (n) => (n === 1 ? 1 : 0),
  saw: (n) => 2 / (Math.PI * n),
  square: (n) => (n % 2 === 1 ? 4 / (Math.PI * n) : 0),
  triangle: (n) => (n % 2 === 1 ? ((n % 4 === 1 ? 1 : -1) * 8) / (Math.PI * Math.PI * n * n) : 0),
} as const satisfies Record<string, Series>;

export type WaveName = keyof typeof SERIES;

/**
 * Harmonics of a tone as sines and cosines: the classic waves are all of sines; a pulse of width w is the
 * difference of two saws,
 * the second later by w cycles.
 */
export function seriesOf(shape: WaveName | 'pulse', width: number): (n: number) => Harmonic {
  if (shape !== 'pulse') return (n) => ({ sine: SERIES[shape](n), cosine: 0 });
  return (n) => {
    const angle = 2 * Math.PI * n * width;
    return { sine: SERIES.saw(n) * (1 - Math.cos(angle)), cosine: SERIES.saw(n) * Math.sin(angle) };
  };
}
