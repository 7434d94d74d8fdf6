import type { CycleSpectrum } from './cycle-spectrum.js';

/**
 * Moves a spectrum apart from its note: what stood at harmonic m comes to stand at `factor`·m, while every
 * line stays a harmonic of the note. Upward the magnitudes
 * are read as a curve over frequency, straight between harmonics and level below the first, so that no
 * harmonic of the note is left empty, the fundamental least of all; downward
 * each harmonic's power is shared between the two harmonics next to where it comes to lie, and what comes to
 * lie below the fundamental goes to it, so that nothing
 * is lost between them. The whole keeps its power. Each harmonic keeps its phase at any factor: two shifts
 * can be mixed, and a shift can move, without cancelling.
 *
 * Resampling of the spectral envelope is common practice; the straight line and the sharing by distance are
 * our own choice.
 *
 * @param factor 2^(semitones/12), 0.25 to 4.
 * @param count harmonics of the result; what comes to lie above them is left out.
 */
export function shiftSpectrum({ sine, cosine }: CycleSpectrum, factor: number, count: number): CycleSpectrum {
  const given = sine.length;
  const level = (m: number) => (m > given ? 0 : Math.hypot(sine[m - 1], cosine[m - 1]));
  const power = new Float64Array(count);
  if (factor >= 1) {
    for (let k = 1; k <= count; k++) {
      const at = Math.max(1, k / factor);
      const below = Math.floor(at);
      const here = level(below) + (at - below) * (level(below + 1) - level(below));
      power[k - 1] = (here * here) / factor;
    }
  } else {
    for (let m = 1; m <= given; m++) {
      const at = Math.max(1, m * factor);
      const below = Math.floor(at);
      const share = at - below;
      const whole = level(m) ** 2;
      if (below <= count) power[below - 1] += (1 - share) * whole;
      if (below < count) power[below] += share * whole;
    }
  }
  const out = { sine: new Float64Array(count), cosine: new Float64Array(count) };
  for (let k = 1; k <= count; k++) {
    const size = Math.sqrt(power[k - 1]);
    const own = level(k);
    out.sine[k - 1] = own > 0 ? (size * sine[k - 1]) / own : size;
    out.cosine[k - 1] = own > 0 ? (size * cosine[k - 1]) / own : 0;
  }
  return out;
}
