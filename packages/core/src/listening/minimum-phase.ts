import { inverseSpectrum, spectrum } from '../dsp/index.js';

/** Frames of the transforms: long enough that the cepstrum of a steep filter does not run into itself. */
const SIZE = 1 << 16;
/** Gains lower than this are held there: nothing is heard of them, and their logarithm has an end. */
const LEAST = 1e-7;
/** The share of the taps over which they end. */
const ENDS = 0.25;

/**
 * Taps of a filter of minimum phase whose magnitude is given, by its real cepstrum (Oppenheim and Schafer, Discrete-time signal
 * processing, 3rd edition, section 13.5.4): it begins at once. The last quarter of the taps is faded out.
 *
 * @param gainAt magnitude at a frequency in hertz, 0 to half the rate.
 */
export function minimumPhase(
  gainAt: (hz: number) => number,
  sampleRateHz: number,
  taps: number,
): Float64Array {
  const log = new Float64Array(2 * SIZE);
  for (let k = 0; k <= SIZE / 2; k++) {
    const value = Math.log(Math.max(LEAST, gainAt((k * sampleRateHz) / SIZE)));
    log[2 * k] = value;
    if (k > 0 && k < SIZE / 2) log[2 * (SIZE - k)] = value;
  }
  const cepstrum = inverseSpectrum(log);
  for (let i = 1; i < SIZE / 2; i++) {
    cepstrum[2 * i] *= 2;
    cepstrum[2 * i + 1] = 0;
    cepstrum[2 * (SIZE - i)] = 0;
    cepstrum[2 * (SIZE - i) + 1] = 0;
  }
  const folded = spectrum(cepstrum);
  for (let k = 0; k < SIZE; k++) {
    const size = Math.exp(folded[2 * k]);
    const phase = folded[2 * k + 1];
    folded[2 * k] = size * Math.cos(phase);
    folded[2 * k + 1] = size * Math.sin(phase);
  }
  const response = inverseSpectrum(folded);
  const ends = Math.round(taps * (1 - ENDS));
  return Float64Array.from({ length: taps }, (_, i) => {
    const fade = i < ends ? 1 : 0.5 + 0.5 * Math.cos((Math.PI * (i - ends)) / (taps - ends));
    return fade * response[2 * i];
  });
}
