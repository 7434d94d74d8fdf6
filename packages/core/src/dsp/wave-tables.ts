import { inverseSpectrum } from './transform.js';

/** Tables stand half an octave apart, from this fundamental upward. */
const LOWEST_HZ = 16;
const TABLES = 21;
const LARGE = 8192;
const SMALL = 2048;

/** Harmonic series of a wave: amplitude of the sine of harmonic n (n ≥ 1) in a wave that swings between −1 and 1. */
export type Series = (n: number) => number;

/** Fourier series of the classic waves, all of sines, so that every wave starts with its fundamental at phase 0. */
export const SERIES = {
  sine: (n) => (n === 1 ? 1 : 0),
  saw: (n) => 2 / (Math.PI * n),
  square: (n) => (n % 2 === 1 ? 4 / (Math.PI * n) : 0),
  triangle: (n) => (n % 2 === 1 ? ((n % 4 === 1 ? 1 : -1) * 8) / (Math.PI * Math.PI * n * n) : 0),
} as const satisfies Record<string, Series>;

/**
 * Harmonics of a tone as sines and cosines: the classic waves are all of sines; a pulse of width w is the difference of two saws,
 * the second later by w cycles.
 */
export function seriesOf(shape: keyof typeof SERIES | 'pulse', width: number): (n: number) => { sine: number; cosine: number } {
  if (shape !== 'pulse') return (n) => ({ sine: SERIES[shape](n), cosine: 0 });
  return (n) => {
    const angle = 2 * Math.PI * n * width;
    return { sine: SERIES.saw(n) * (1 - Math.cos(angle)), cosine: SERIES.saw(n) * Math.sin(angle) };
  };
}

/**
 * The highest frequency a table may hold, in hertz. What lies above half the sample rate folds back to above 20 kHz, so a
 * table that is full at its top note still reaches 17 to 20 kHz at its bottom note.
 */
export function tableLimitHz(sampleRateHz: number): number {
  return Math.max(sampleRateHz / 2, Math.min(sampleRateHz - 20000, 30000));
}

/** One cycle of the sines 1 to `count` of a series, by inverse transform; one value more than `size`, equal to the first. */
function cycle(series: Series, count: number, size: number): Float32Array {
  const bins = new Float64Array(2 * size);
  for (let n = 1; n <= count; n++) {
    const half = (series(n) * size) / 2;
    bins[2 * n + 1] = -half;
    bins[2 * (size - n) + 1] = half;
  }
  const wave = inverseSpectrum(bins);
  const table = new Float32Array(size + 1);
  for (let i = 0; i < size; i++) table[i] = wave[2 * i];
  table[size] = table[0];
  return table;
}

/**
 * Band-limited cycles of one wave, one for each half octave of the fundamental. Read with linear interpolation; the
 * tables are large enough (at least 12 samples to the period of the highest harmonic, 32 in the small ones) that the
 * images of the interpolation lie under −75 dB of the fundamental.
 */
export class WaveTables {
  readonly tables: readonly Float32Array[];

  constructor(series: Series, sampleRateHz: number) {
    const limit = tableLimitHz(sampleRateHz);
    this.tables = Array.from({ length: TABLES }, (_, i) => {
      const count = Math.max(1, Math.floor(limit / (LOWEST_HZ * 2 ** ((i + 1) / 2))));
      return cycle(series, Math.min(count, LARGE / 4), count > 64 ? LARGE : SMALL);
    });
  }

  /** Number of the table for a fundamental in hertz. */
  indexFor(hz: number): number {
    const i = Math.floor(2 * Math.log2(hz / LOWEST_HZ));
    return i < 0 ? 0 : i >= TABLES ? TABLES - 1 : i;
  }

  /** Lowest fundamental of a table, in hertz; one past the last has no upper bound. */
  lowest(index: number): number {
    return index >= TABLES ? Infinity : LOWEST_HZ * 2 ** (index / 2);
  }
}

const made = new Map<string, WaveTables>();

/** The tables of a classic wave at a sample rate; made once and shared. */
export function waveTables(name: keyof typeof SERIES, sampleRateHz: number): WaveTables {
  const key = `${name} ${sampleRateHz}`;
  let tables = made.get(key);
  if (!tables) made.set(key, (tables = new WaveTables(SERIES[name], sampleRateHz)));
  return tables;
}
