import { decimate, inverseSpectrum, nextPowerOfTwo, spectrum } from '../dsp/index.js';
import { known, unknown, type Figure } from './audio.js';

const THRESHOLD = 0.15;

/**
 * Fundamental of a steady part in hertz by YIN (de Cheveigné and Kawahara, 2002): the first dip of the
 * cumulative mean
 * normalised difference under 0.15, made finer by a parabola, over the whole signal. The difference function
 * comes from
 * transforms. With `deepest` the deepest dip of the range is taken, not the first, for a range so narrow that
 * only one period lies in it. Null when the part is shorter than four cycles of what is found (`leastCycles`: two or four), or
 * nothing repeats.
 */
export function fundamental(
  signal: ArrayLike<number>,
  sampleRateHz: number,
  range: { minHz?: number; maxHz?: number; deepest?: boolean; leastCycles?: number } = {},
): Figure {
  const { minHz = 22, maxHz = 1500, deepest = false, leastCycles = 4 } = range;
  const factor = Math.max(1, Math.floor(sampleRateHz / 12000));
  const x = decimate(signal, factor);
  const rate = sampleRateHz / factor;
  const longest = Math.min(Math.ceil(rate / minHz) + 2, Math.floor(x.length / 2));
  const width = x.length - longest;
  if (longest < 8) return unknown('too short for a pitch');

  // d(τ) = Σ (x[j] − x[j+τ])² over j < width: two energies and a correlation.
  const size = nextPowerOfTwo(x.length + width);
  const whole = new Float64Array(2 * size);
  const head = new Float64Array(2 * size);
  for (let i = 0; i < x.length; i++) whole[2 * i] = x[i];
  for (let i = 0; i < width; i++) head[2 * i] = x[i];
  const a = spectrum(whole);
  const b = spectrum(head);
  for (let k = 0; k < size; k++) {
    const re = a[2 * k] * b[2 * k] + a[2 * k + 1] * b[2 * k + 1];
    const im = a[2 * k + 1] * b[2 * k] - a[2 * k] * b[2 * k + 1];
    a[2 * k] = re;
    a[2 * k + 1] = im;
  }
  const correlation = inverseSpectrum(a);
  let energy = 0;
  for (let i = 0; i < width; i++) energy += x[i] * x[i];
  if (!(energy > 1e-12 * width)) return unknown('there is only silence');
  const difference = new Float64Array(longest + 1);
  let shifted = energy;
  for (let lag = 1; lag <= longest; lag++) {
    shifted += x[lag + width - 1] * x[lag + width - 1] - x[lag - 1] * x[lag - 1];
    difference[lag] = Math.max(0, energy + shifted - 2 * correlation[2 * lag]);
  }
  const normal = new Float64Array(longest + 1).fill(1);
  let running = 0;
  for (let lag = 1; lag <= longest; lag++) {
    running += difference[lag];
    normal[lag] = running > 0 ? (difference[lag] * lag) / running : 1;
  }
  const first = Math.max(2, Math.floor(rate / maxHz));
  let least = first;
  if (deepest) for (let lag = first; lag < longest; lag++) if (normal[lag] < normal[least]) least = lag;
  for (let lag = deepest ? least : first; lag < longest; lag++) {
    if (normal[lag] >= THRESHOLD || normal[lag + 1] < normal[lag]) continue;
    const before = difference[lag - 1];
    const here = difference[lag];
    const after = difference[lag + 1];
    const curve = before - 2 * here + after;
    const period = lag + (curve > 0 ? (0.5 * (before - after)) / curve : 0);
    return x.length >= leastCycles * period
      ? known(rate / period)
      : unknown(`shorter than ${leastCycles === 2 ? 'two' : 'four'} cycles`);
  }
  return unknown('nothing repeats: there is no pitch');
}
