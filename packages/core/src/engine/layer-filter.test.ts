import { cleanFilter, FILTER_MODES, type Filter } from '../document/index.js';
import { filterMagnitude } from '../dsp/index.js';
import { db } from '../testing/signals.js';
import { python } from '../testing/tools.js';
import { LayerFilter } from './layer-filter.js';

const RATE = 48000;
const DEPTHS = [40, 90, 200, 400, 640, 800, 1000, 1600, 3000, 6000, 12000];
const values = (filter: Filter) => Float64Array.of(filter.cutoffHz, filter.resonancePct, filter.widthOct, filter.vowelPct, filter.driveDb, filter.levelDb);

function run(filter: Filter, samples: Float64Array, cutoff: (i: number) => number = () => filter.cutoffHz): Float64Array {
  const engine = new LayerFilter(filter, RATE);
  const numbers = values(filter);
  const hz = new Float64Array(1);
  for (let at = 0; at < samples.length; at += 16) {
    hz[0] = cutoff(at);
    engine.process(samples.subarray(at, at + 16), 0, 16, hz, numbers, 0);
  }
  return samples;
}

function impulse(filter: Filter, frames = 32768): Float64Array {
  const x = new Float64Array(frames);
  // So small that nothing saturates.
  x[0] = 1e-3;
  return run(filter, x).map((v) => v * 1e3);
}

function magnitudeAt(h: Float64Array, hz: number): number {
  let re = 0;
  let im = 0;
  for (let i = 0; i < h.length; i++) {
    re += h[i] * Math.cos((2 * Math.PI * hz * i) / RATE);
    im -= h[i] * Math.sin((2 * Math.PI * hz * i) / RATE);
  }
  return Math.hypot(re, im);
}

const base = cleanFilter({ on: true, cutoffHz: 800 });
const cases: Filter[] = FILTER_MODES.filter((mode) => mode !== 'ring').flatMap((mode) => {
  const slopes = ['low', 'high', 'band', 'notch'].includes(mode) ? (['6', '12', '18', '24'] as const) : (['12'] as const);
  const forms = ['low', 'high', 'band', 'notch'].includes(mode) ? (['state', 'ladder'] as const) : (['state'] as const);
  return slopes.flatMap((slope) => forms.flatMap((form) => [[0, 0], [55, 0], [-60, 0], [55, 0.8]].map(([resonancePct, widthOct]) => ({ ...base, mode, slope, form, resonancePct, widthOct }))));
});

describe('the filters of a layer', () => {
  it.each(cases.map((filter) => [`${filter.mode} ${filter.slope} ${filter.form} at ${filter.resonancePct} %, ${filter.widthOct} oct`, filter] as const))('%s have the magnitude of their formula within 0.5 dB', (_name, filter) => {
    const h = impulse(filter);
    for (const hz of DEPTHS) {
      const wanted = filterMagnitude(filter, hz, RATE)!;
      // Deep inside a notch there is nothing to compare.
      if (wanted > 1e-3) expect(Math.abs(db(magnitudeAt(h, hz) / wanted))).toBeLessThan(0.5);
    }
  });

  // The formula itself against SciPy: analogue prototypes through scipy.signal.bilinear at the warped cutoff.
  it.each([
    ['low', '24', 'state', 0, "z, p, k = signal.butter(4, w0, 'low', analog=True, output='zpk')"],
    ['high', '24', 'state', 0, "z, p, k = signal.butter(4, w0, 'high', analog=True, output='zpk')"],
    ['low', '18', 'state', 0, "z, p, k = signal.butter(3, w0, 'low', analog=True, output='zpk')"],
    ['high', '18', 'state', 0, "z, p, k = signal.butter(3, w0, 'high', analog=True, output='zpk')"],
    ['low', '6', 'state', 0, "z, p, k = signal.butter(1, w0, 'low', analog=True, output='zpk')"],
    ['low', '24', 'ladder', 0, 'z, p, k = [], [-w0] * 4, w0**4'],
    ['high', '12', 'ladder', 0, 'z, p, k = [0, 0], [-w0] * 2, 1.0'],
    ['low', '24', 'ladder', 40, 'r = 4.08 * 0.4; z, k = [], w0**4 * (1 + r); p = [w0 * (r**0.25 * np.exp(1j * np.pi * (2 * n + 1) / 4) - 1) for n in range(4)]'],
  ] as const)('%s %s %s at %d %% is SciPy’s', (mode, slope, form, resonancePct, prototype) => {
    const wanted = python<number[]>(`
w0 = 2 * 48000 * np.tan(np.pi * 800 / 48000)
${prototype}
zd, pd, kd = signal.bilinear_zpk(np.array(z), np.array(p), k, 48000)
w, h = signal.freqz_zpk(zd, pd, kd, worN=np.array(data), fs=48000)
print(json.dumps(list(np.abs(h))))`, DEPTHS);
    DEPTHS.forEach((hz, i) => {
      const drawn = filterMagnitude({ ...base, mode, slope, form, resonancePct }, hz, RATE)!;
      if (wanted[i] > 1e-4) expect(Math.abs(db(drawn / wanted[i]))).toBeLessThan(0.1);
    });
  });

  it.each([['low', 'state', '12'], ['low', 'state', '24'], ['low', 'ladder', '24'], ['band', 'state', '12'], ['band', 'ladder', '12']] as const)('%s %s %s sound by themselves at full resonance, in tune and bounded', (mode, form, slope) => {
    for (const hz of [55, 220, 880]) {
      const x = new Float64Array(96000);
      x[0] = 0.5;
      run({ ...base, mode, form, slope, cutoffHz: hz, resonancePct: 100 }, x);
      const tail = x.subarray(48000);
      const peak = Math.max(...tail.map(Math.abs));
      expect(peak).toBeGreaterThan(0.02);
      expect(peak).toBeLessThan(4);
      const crossings: number[] = [];
      for (let i = 0; i < tail.length - 1; i++) if (tail[i] <= 0 && tail[i + 1] > 0) crossings.push(i - tail[i] / (tail[i + 1] - tail[i]));
      const found = (RATE * (crossings.length - 1)) / (crossings[crossings.length - 1] - crossings[0]);
      expect(Math.abs(1200 * Math.log2(found / hz))).toBeLessThan(10);
    }
  });

  it('a dip lies at the cutoff below zero, a peak above', () => {
    const at = (resonancePct: number, form: 'state' | 'ladder') => db(magnitudeAt(impulse({ ...base, form, slope: form === 'state' ? '12' : '24', resonancePct }), 800)) - db(magnitudeAt(impulse({ ...base, form, slope: form === 'state' ? '12' : '24' }), 800));
    for (const form of ['state', 'ladder'] as const) {
      expect(at(60, form)).toBeGreaterThan(6);
      expect(at(-60, form)).toBeLessThan(-6);
    }
  });

  it.each(FILTER_MODES)('%s does not burst while its cutoff is thrown about at audio rate', (mode) => {
    for (const form of ['state', 'ladder'] as const) {
      const x = Float64Array.from({ length: 48000 }, (_, i) => 0.5 * Math.sin(0.01 * i) + 0.2 * Math.sin(0.13 * i));
      run({ ...base, mode, form, resonancePct: 80, widthOct: 0 }, x, (i) => (i % 32 === 0 ? 60 : 9000));
      expect(Math.max(...x.map(Math.abs))).toBeLessThan(12);
      run({ ...base, mode, form, resonancePct: 100 }, x, (i) => 600 + 550 * Math.sin((2 * Math.PI * 700 * i) / RATE));
      expect(x.every(Number.isFinite)).toBe(true);
      expect(Math.max(...x.map(Math.abs))).toBeLessThan(60);
    }
  });

  it('ring multiplies by a sine at the cutoff, and by two where it is widened', () => {
    const tone = () => Float64Array.from({ length: 48000 }, (_, i) => Math.sin((2 * Math.PI * 1000 * i) / RATE));
    const one = run({ ...base, mode: 'ring', cutoffHz: 300 }, tone());
    expect(magnitudeAt(one, 1300) / 24000).toBeCloseTo(0.5, 2);
    expect(magnitudeAt(one, 700) / 24000).toBeCloseTo(0.5, 2);
    expect(magnitudeAt(one, 1000) / 24000).toBeLessThan(0.01);
    const dry = run({ ...base, mode: 'ring', cutoffHz: 300, resonancePct: -100 }, tone());
    expect(magnitudeAt(dry, 1000) / 24000).toBeCloseTo(1, 2);
  });
});
