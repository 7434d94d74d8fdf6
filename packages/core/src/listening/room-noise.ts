import { inverseSpectrum, Random } from '../dsp/index.js';
import { densitiesOf, noiseDensityDb } from '../translation/index.js';

/** Length of the noise before it comes round again, in frames: 2.7 s at 48 kHz. */
const FRAMES = 1 << 17;
const SEED = 41;
/** Lowest and highest frequency of the noise, in hertz. */
const FROM_HZ = 20;
const TO_HZ = 18000;

/**
 * Noise of a room for both sides, each for itself: a loop without a seam, made of all frequencies at random phases. Its mean
 * square in an octave is that of the level in dB SPL, where a sine of amplitude 1 stands at `fullScaleDb` dB SPL.
 */
export function roomNoise(
  noiseDb: readonly number[],
  fullScaleDb: number,
  sampleRateHz: number,
): { readonly left: Float32Array; readonly right: Float32Array } {
  const densities = densitiesOf(noiseDb);
  const random = new Random(SEED);
  const bins = new Float64Array(2 * FRAMES);
  const perBin = sampleRateHz / FRAMES;
  for (const side of [0, 1])
    for (let k = Math.ceil(FROM_HZ / perBin); k < Math.min(FRAMES / 2, TO_HZ / perBin); k++) {
      // A sine of amplitude 1 has a mean square of 1/2.
      const square = 0.5 * 10 ** ((noiseDensityDb(densities, k * perBin) - fullScaleDb) / 10) * perBin;
      const size = FRAMES * Math.sqrt(square / 2);
      const phase = 2 * Math.PI * random.next();
      const re = size * Math.cos(phase);
      const im = size * Math.sin(phase);
      // Left goes in as the real, right as the imaginary part of one transform.
      bins[2 * k] += side === 0 ? re : -im;
      bins[2 * k + 1] += side === 0 ? im : re;
      const mirror = 2 * (FRAMES - k);
      bins[mirror] += side === 0 ? re : im;
      bins[mirror + 1] += side === 0 ? -im : re;
    }
  const out = inverseSpectrum(bins);
  return {
    left: Float32Array.from({ length: FRAMES }, (_, i) => out[2 * i]),
    right: Float32Array.from({ length: FRAMES }, (_, i) => out[2 * i + 1]),
  };
}
