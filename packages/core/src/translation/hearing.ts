import { along } from './along.js';
import { OCTAVES_HZ } from './systems.js';

// ISO 226:2003, table 1, from memory: frequencies in hertz, exponents of loudness perception, levels of the linear
// transfer function normalised at 1 kHz in dB, thresholds of hearing in dB SPL.
const HZ = [
  20, 25, 31.5, 40, 50, 63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000,
  2500, 3150, 4000, 5000, 6300, 8000, 10000, 12500,
];
const EXPONENTS = [
  0.532, 0.506, 0.48, 0.455, 0.432, 0.409, 0.387, 0.367, 0.349, 0.33, 0.315, 0.301, 0.288, 0.276, 0.267,
  0.259, 0.253, 0.25, 0.246, 0.244, 0.243, 0.243, 0.243, 0.242, 0.242, 0.245, 0.254, 0.271, 0.301,
];
const TRANSFER_DB = [
  -31.6, -27.2, -23, -19.1, -15.9, -13, -10.3, -8.1, -6.2, -4.5, -3.1, -2, -1.1, -0.4, 0, 0.3, 0.5, 0, -2.7,
  -4.1, -1, 1.7, 2.5, 1.2, -2.1, -7.1, -11.2, -10.7, -3.1,
];
const THRESHOLD_DB = [
  78.5, 68.7, 59.5, 51.1, 44, 37.5, 31.5, 26.5, 22.1, 17.9, 14.4, 11.4, 8.6, 6.2, 4.4, 3, 2.2, 2.4, 3.5, 1.7,
  -1.3, -4.2, -6, -5.4, -1.5, 6, 12.6, 13.9, 12.3,
];

/** Threshold of hearing of a pure tone in dB SPL, ISO 226:2003; from 20 Hz to 12.5 kHz. */
export const hearingThresholdDb = (hz: number): number => along(HZ, THRESHOLD_DB, hz);

/**
 * Level in dB SPL of a pure tone that is as loud as one of `phon` dB at 1 kHz: ISO 226:2003, formula 1; from 20 to 90
 * phon.
 */
export function equalLoudnessDb(hz: number, phon: number): number {
  const exponent = along(HZ, EXPONENTS, hz);
  const transfer = along(HZ, TRANSFER_DB, hz);
  const a =
    0.00447 * (10 ** (0.025 * phon) - 1.15) +
    (0.4 * 10 ** ((hearingThresholdDb(hz) + transfer) / 10 - 9)) ** exponent;
  return (10 / exponent) * Math.log10(a) - transfer + 94;
}

/** Equivalent rectangular bandwidth of the auditory filter at a frequency, hertz: Glasberg and Moore (1990). */
export const auditoryWidthHz = (hz: number): number => 24.7 * ((4.37 * hz) / 1000 + 1);

/** An octave is 0.70711 times its centre wide. */
const OCTAVE_WIDTH = Math.SQRT1_2;

/** Noise of a room by octaves, dB SPL at `OCTAVES_HZ`, as its density in dB SPL per hertz there. */
export const densitiesOf = (octavesDb: readonly number[]): number[] =>
  octavesDb.map((level, i) => level - 10 * Math.log10(OCTAVE_WIDTH * OCTAVES_HZ[i]));

/** Density of a noise in dB SPL per hertz at a frequency; see `densitiesOf`. */
export const noiseDensityDb = (densities: readonly number[], hz: number): number =>
  along(OCTAVES_HZ, densities, hz);

/** Level in dB SPL of a noise within the auditory filter at a frequency; see `densitiesOf`. */
export const noiseWithinDb = (densities: readonly number[], hz: number): number =>
  noiseDensityDb(densities, hz) + 10 * Math.log10(auditoryWidthHz(hz));
