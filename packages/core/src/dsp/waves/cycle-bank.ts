import type { CycleSpectrum } from './cycle-spectrum.js';
import { shiftSpectrum } from './shifted-spectrum.js';
import { inverseSpectrum, nextPowerOfTwo } from '../transforms/transform.js';
import { SERIES, type WaveName } from './wave-series.js';

/** Levels stand half an octave apart, from this fundamental upward. */
const LOWEST_HZ = 16;
export const LEVELS = 21;
/** Farthest that spectra are shifted either way, in semitones. */
export const MOST_SHIFT = 24;

/**
 * The highest frequency a table may hold, in hertz. What lies above half the sample rate folds back to above
 * 20 kHz, so a
 * table that is full at its top note still reaches 17 to 20 kHz at its bottom note.
 */
export function tableLimitHz(sampleRateHz: number): number {
  return Math.max(sampleRateHz / 2, Math.min(sampleRateHz - 20000, 30000));
}

export interface CycleBankOptions {
  /** Highest frequency a table may hold. */
  readonly limitHz: number;
  /** Values of a table for each of its harmonics, at least; 32 unless set. */
  readonly oversize?: number;
  /** Bounds of a table's length, powers of two. */
  readonly least?: number;
  readonly most?: number;
  /** Semitones by which the spectra stand apart from the note; 0 unless set. */
  readonly shiftSt?: number;
}

/**
 * Band-limited single cycles, one or more frames of them, each at one level for every half octave of the
 * fundamental; a table is made when it is
 * first asked for. They are read with linear interpolation, whose loss (the square of sin(πx)/(πx), x =
 * n/length) is made good in the table. Images
 * of harmonic n lie at (n/(length − n))² of it.
 */
export class CycleBank {
  private readonly made: (Float32Array | undefined)[];
  private readonly oversize: number;
  private readonly least: number;
  private readonly most: number;
  private readonly limitHz: number;
  private readonly shiftSt: number;
  /** Most harmonics that its frames have once they are shifted. */
  private readonly count: number;
  /** The same frames at other shifts, by semitones above −24. */
  private readonly shifts: (CycleBank | undefined)[] = [];

  constructor(
    readonly frames: readonly CycleSpectrum[],
    private readonly options: CycleBankOptions,
  ) {
    const { limitHz, oversize = 32, least = 2048, most = 8192, shiftSt = 0 } = options;
    this.shiftSt = shiftSt;
    this.count = Math.ceil(frames[0].sine.length * Math.max(1, 2 ** (shiftSt / 12)));
    this.limitHz = limitHz;
    this.oversize = oversize;
    this.least = least;
    this.most = most;
    this.made = new Array<Float32Array | undefined>(frames.length * LEVELS);
  }

  /** Number of the level for a fundamental in hertz. */
  levelFor(hz: number): number {
    const i = Math.floor(2 * Math.log2(hz / LOWEST_HZ));
    return i < 0 ? 0 : i >= LEVELS ? LEVELS - 1 : i;
  }

  /** Lowest fundamental of a level, in hertz; one past the last has no upper bound. */
  lowest(level: number): number {
    return level >= LEVELS ? Infinity : LOWEST_HZ * 2 ** (level / 2);
  }

  /** Harmonics that a level holds. */
  harmonics(level: number): number {
    const fits = Math.max(1, Math.floor(this.limitHz / (LOWEST_HZ * 2 ** ((level + 1) / 2))));
    return Math.min(fits, this.count, this.most / 4);
  }

  /**
   * The same frames with their spectra `semitones` (a whole number from −24 to 24) apart from the note; made
   * when first asked for. Their tables are as long as its own.
   */
  shifted(semitones: number): CycleBank {
    if (semitones === 0) return this;
    return (
      this.shifts[semitones + MOST_SHIFT] ??
      (this.shifts[semitones + MOST_SHIFT] = new CycleBank(this.frames, {
        ...this.options,
        shiftSt: semitones,
      }))
    );
  }

  has(frame: number, level: number): boolean {
    return this.made[frame * LEVELS + level] !== undefined;
  }

  /** One cycle; one value more than a power of two, equal to the first. */
  table(frame: number, level: number): Float32Array {
    const place = frame * LEVELS + level;
    return this.made[place] ?? (this.made[place] = this.make(frame, level));
  }

  private make(frame: number, level: number): Float32Array {
    const count = this.harmonics(level);
    const size = Math.min(this.most, Math.max(this.least, nextPowerOfTwo(this.oversize * count)));
    const { sine, cosine } =
      this.shiftSt === 0
        ? this.frames[frame]
        : shiftSpectrum(this.frames[frame], 2 ** (this.shiftSt / 12), count);
    const bins = new Float64Array(2 * size);
    for (let n = 1; n <= count; n++) {
      const x = (Math.PI * n) / size;
      const half = (0.5 * size * x * x) / Math.sin(x) ** 2;
      bins[2 * n] = half * cosine[n - 1];
      bins[2 * n + 1] = -half * sine[n - 1];
      bins[2 * (size - n)] = bins[2 * n];
      bins[2 * (size - n) + 1] = -bins[2 * n + 1];
    }
    const wave = inverseSpectrum(bins);
    const table = new Float32Array(size + 1);
    for (let i = 0; i < size; i++) table[i] = wave[2 * i];
    table[size] = table[0];
    return table;
  }
}

/** A spectrum from amplitudes of sines. */
export function sineSpectrum(series: (n: number) => number, count: number): CycleSpectrum {
  return {
    sine: Float64Array.from({ length: count }, (_, i) => series(i + 1)),
    cosine: new Float64Array(count),
  };
}

const made = new Map<string, CycleBank>();

/** The bank of a classic wave for a highest frequency; made once and shared. */
export function waveBank(name: WaveName, limitHz: number): CycleBank {
  const key = `${name} ${limitHz}`;
  let bank = made.get(key);
  if (!bank)
    made.set(
      key,
      (bank = new CycleBank([sineSpectrum(SERIES[name], name === 'sine' ? 1 : 2048)], { limitHz })),
    );
  return bank;
}
