import { python } from '../../testing/tools.js';
import { CrossoverSide } from './linkwitz-riley.js';
import { prewarp, StateVariable, type SectionMode } from './state-variable.js';

const RATE = 48000;
const db = (x: number) => 20 * Math.log10(Math.abs(x));

/** Impulse response of what processes a block in place. */
function impulse(process: (samples: Float64Array) => void, frames = 12000): Float64Array {
  const samples = new Float64Array(frames);
  samples[0] = 1;
  process(samples);
  return samples;
}

/** Response of an impulse response at a frequency. */
function responseAt(h: Float64Array, hz: number): { re: number; im: number } {
  let re = 0;
  let im = 0;
  for (let i = 0; i < h.length; i++) {
    re += h[i] * Math.cos((2 * Math.PI * hz * i) / RATE);
    im -= h[i] * Math.sin((2 * Math.PI * hz * i) / RATE);
  }
  return { re, im };
}
const magnitudeAt = (h: Float64Array, hz: number) => {
  const { re, im } = responseAt(h, hz);
  return Math.hypot(re, im);
};

const DEPTHS = [30, 60, 120, 250, 500, 900, 1000, 1200, 2000, 5000, 10000];

describe('state-variable filter', () => {
  // Against SciPy: the analogue section H(s) through scipy.signal.bilinear at the warped cutoff, evaluated by
  // freqz.
  it.each<[SectionMode, number]>([
    ['low', 0.7071],
    ['low', 4],
    ['high', 0.7071],
    ['high', 2],
    ['band', 3],
    ['notch', 1],
  ])("%s at 1 kHz and Q %f has the magnitude of SciPy's bilinear section", (mode, q) => {
    const g = prewarp(1000, RATE);
    const h = impulse((x) => {
      new StateVariable(mode).process(x, 0, x.length, Float64Array.of(g, g, 1 / q));
    });
    const wanted = python<number[]>(
      `
w0 = 2 * data['rate'] * np.tan(np.pi * 1000 / data['rate'])
num = {'low': [0, 0, w0**2], 'high': [1, 0, 0], 'band': [0, w0 / data['q'], 0], 'notch': [1, 0, w0**2]}[data['mode']]
b, a = signal.bilinear(num, [1, w0 / data['q'], w0**2], data['rate'])
w, h = signal.freqz(b, a, worN=np.array(data['hz']), fs=data['rate'])
print(json.dumps(list(np.abs(h))))`,
      { rate: RATE, mode, q, hz: DEPTHS },
    );
    DEPTHS.forEach((hz, i) => {
      if (wanted[i] < 1e-3) expect(magnitudeAt(h, hz)).toBeLessThan(2e-3);
      else expect(db(magnitudeAt(h, hz)) - db(wanted[i])).toBeCloseTo(0, 2);
    });
  });

  it('stays bounded while its cutoff jumps at every frame', () => {
    const filter = new StateVariable('low');
    const x = Float64Array.from({ length: 48000 }, (_, i) => Math.sin(0.01 * i));
    for (let i = 0; i < x.length; i++) {
      const g = prewarp(i % 2 === 0 ? 40 : 18000, RATE);
      filter.process(x, i, i + 1, Float64Array.of(g, g, 1 / 8));
    }
    expect(Math.max(...x.map(Math.abs))).toBeLessThan(20);
  });
});

describe('Linkwitz–Riley crossover', () => {
  // Linkwitz and Riley (1976): both sides −6.02 dB at the crossover, in phase, their sum flat in magnitude.
  const g = Float64Array.of(prewarp(90, RATE), prewarp(90, RATE));
  const low = impulse((x) => {
    new CrossoverSide('low').process(x, 0, x.length, g);
  });
  const high = impulse((x) => {
    new CrossoverSide('high').process(x, 0, x.length, g);
  });

  it('has both sides at −6.02 dB at the crossover', () => {
    expect(db(magnitudeAt(low, 90))).toBeCloseTo(-6.02, 2);
    expect(db(magnitudeAt(high, 90))).toBeCloseTo(-6.02, 2);
  });

  it('sums flat', () => {
    const sum = low.map((value, i) => value + high[i]);
    for (const hz of [25, 60, 90, 130, 400, 3000, 15000]) expect(db(magnitudeAt(sum, hz))).toBeCloseTo(0, 2);
  });
});
