import type { CycleSpectrum } from './cycle-spectrum.js';

/** Levels at or below this are silent. */
const FLOOR_DB = -90;

/** What is done to a drawn set of harmonics before it sounds; see the parameter table for ranges. */
export interface HarmonicTreatment {
  readonly stopAfter: number;
  readonly tiltDb: number;
  readonly evenDb: number;
  readonly pocket: {
    readonly on: boolean;
    readonly fromHz: number;
    readonly toHz: number;
    readonly amountDb: number;
  } | null;
  /** Fundamental on which the pocket is cleared, in hertz. */
  readonly pocketHz: number;
}

/**
 * Level of harmonic n in dB after tilt, hard stop, balance and pocket; −∞ where it is silent. The fundamental
 * keeps its level whatever the
 * balance, as it is the note itself.
 */
export function harmonicDb(levelDb: number, n: number, treatment: HarmonicTreatment): number {
  const { stopAfter, tiltDb, evenDb, pocket, pocketHz } = treatment;
  if (n > stopAfter || levelDb <= FLOOR_DB) return -Infinity;
  let db = levelDb + tiltDb * Math.log2(n);
  if (n > 1 && evenDb > 0 && n % 2 === 1) db -= evenDb;
  if (evenDb < 0 && n % 2 === 0) db += evenDb;
  if (pocket?.on && n * pocketHz >= pocket.fromHz && n * pocketHz <= pocket.toHz) db += pocket.amountDb;
  return db;
}

/**
 * The spectrum of a drawn set as it sounds: harmonic n is a·sin(2πnx + φ), a = 10^(dB/20). Phases that are
 * not given are 0.
 */
export function harmonicSpectrum(
  set: { readonly levelsDb: readonly number[]; readonly phasesDeg: readonly number[] },
  treatment: HarmonicTreatment,
  count = set.levelsDb.length,
): CycleSpectrum {
  const sine = new Float64Array(count);
  const cosine = new Float64Array(count);
  for (let i = 0; i < Math.min(count, set.levelsDb.length); i++) {
    const amplitude = 10 ** (harmonicDb(set.levelsDb[i], i + 1, treatment) / 20);
    const phase = ((set.phasesDeg[i] ?? 0) * Math.PI) / 180;
    sine[i] = amplitude * Math.cos(phase);
    cosine[i] = amplitude * Math.sin(phase);
  }
  return { sine, cosine };
}

export const HARMONIC_FILLS = ['1/n', 'odd 1/n', 'odd 1/n²', 'octaves'] as const;
export type HarmonicFill = (typeof HARMONIC_FILLS)[number];

/**
 * Quick fills: levels in dB of `count` harmonics, and the phases that go with them (a triangle's turn about).
 */
export function fillHarmonics(
  fill: HarmonicFill,
  count: number,
): { levelsDb: number[]; phasesDeg: number[] } {
  const numbers = Array.from({ length: count }, (_, i) => i + 1);
  const db = (amplitude: number) =>
    amplitude > 0 ? Math.max(FLOOR_DB, Number((20 * Math.log10(amplitude)).toFixed(2))) : FLOOR_DB;
  const amplitude = (n: number) => {
    switch (fill) {
      case '1/n':
        return 1 / n;
      case 'odd 1/n':
        return n % 2 === 1 ? 1 / n : 0;
      case 'odd 1/n²':
        return n % 2 === 1 ? 1 / (n * n) : 0;
      case 'octaves':
        return Number.isInteger(Math.log2(n)) ? 1 / n : 0;
    }
  };
  return {
    levelsDb: numbers.map((n) => db(amplitude(n))),
    phasesDeg: fill === 'odd 1/n²' ? numbers.map((n) => (n % 4 === 3 ? 180 : 0)) : [],
  };
}
