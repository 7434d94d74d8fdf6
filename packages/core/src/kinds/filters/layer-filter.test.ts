import { cleanFilter, FILTER_MODES, type Filter } from '../../document/index.js';
import { db } from '../../testing/signals.js';
import { aliasingDb } from '../../testing/spectra.js';
import { python } from '../../testing/tools.js';
import { filterMagnitude } from './filter-kinds.js';
import { LayerFilter } from './layer-filter.js';

const RATE = 48000;
const DEPTHS = [40, 90, 200, 400, 640, 800, 1000, 1600, 3000, 6000, 12000];
const values = (filter: Filter) =>
  Float64Array.of(
    filter.cutoffHz,
    filter.resonancePct,
    filter.widthOct,
    filter.vowelPct,
    filter.driveDb,
    filter.levelDb,
  );

function run(
  filter: Filter,
  samples: Float64Array,
  cutoff: (i: number) => number = () => filter.cutoffHz,
): Float64Array {
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
  const slopes = ['low', 'high', 'band', 'notch'].includes(mode)
    ? (['6', '12', '18', '24'] as const)
    : (['12'] as const);
  const forms = ['low', 'high', 'band', 'notch'].includes(mode)
    ? (['state', 'ladder'] as const)
    : (['state'] as const);
  return slopes.flatMap((slope) =>
    forms.flatMap((form) =>
      [
        [0, 0],
        [55, 0],
        [-60, 0],
        [55, 0.8],
      ].map(([resonancePct, widthOct]) => ({ ...base, mode, slope, form, resonancePct, widthOct })),
    ),
  );
});

describe('the filters of a layer', () => {
  it.each(
    cases.map(
      (filter) =>
        [
          `${filter.mode} ${filter.slope} ${filter.form} at ${filter.resonancePct} %, ${filter.widthOct} oct`,
          filter,
        ] as const,
    ),
  )('%s have the magnitude of their formula within 0.5 dB', (_name, filter) => {
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
    [
      'low',
      '24',
      'ladder',
      40, // Its stages are set so that its peak, found here on the analogue prototype, stands at the cutoff.
      'r = 4.08 * 0.4; w = np.exp(np.linspace(-2, 1, 300001)); w0 = w0 / w[np.argmax(abs(1 / ((1 + 1j * w)**4 + r)))]; z, k = [], w0**4 * (1 + r); p = [w0 * (r**0.25 * np.exp(1j * np.pi * (2 * n + 1) / 4) - 1) for n in range(4)]',
    ],
  ] as const)('%s %s %s at %d %% is SciPy’s', (mode, slope, form, resonancePct, prototype) => {
    const wanted = python<number[]>(
      `
w0 = 2 * 48000 * np.tan(np.pi * 800 / 48000)
${prototype}
zd, pd, kd = signal.bilinear_zpk(np.array(z), np.array(p), k, 48000)
w, h = signal.freqz_zpk(zd, pd, kd, worN=np.array(data), fs=48000)
print(json.dumps(list(np.abs(h))))`,
      DEPTHS,
    );
    DEPTHS.forEach((hz, i) => {
      const drawn = filterMagnitude({ ...base, mode, slope, form, resonancePct }, hz, RATE)!;
      if (wanted[i] > 1e-4) expect(Math.abs(db(drawn / wanted[i]))).toBeLessThan(0.1);
    });
  });

  /** Every kind that sounds by itself at full resonance. */
  const sounding = [
    ['low', 'state', '12'],
    ['low', 'state', '18'],
    ['low', 'state', '24'],
    ['high', 'state', '24'],
    ['band', 'state', '12'],
    ['band', 'state', '24'],
    ['band clipped', 'state', '12'],
    ['low', 'ladder', '24'],
    ['low', 'ladder', '12'],
    ['high', 'ladder', '24'],
    ['band', 'ladder', '12'],
  ] as const;
  /** Frequency of a wave by its upward passages through zero. */
  const found = (x: Float64Array) => {
    const crossings: number[] = [];
    for (let i = 0; i < x.length - 1; i++)
      if (x[i] <= 0 && x[i + 1] > 0) crossings.push(i - x[i] / (x[i + 1] - x[i]));
    return (RATE * (crossings.length - 1)) / (crossings[crossings.length - 1] - crossings[0]);
  };
  /** Amplitude of a sine at a frequency, under a Blackman-Harris window. */
  const lineAt = (x: Float64Array, hz: number) => {
    let re = 0;
    let im = 0;
    let sum = 0;
    for (let i = 0; i < x.length; i++) {
      const t = (2 * Math.PI * i) / x.length;
      const w = 0.35875 - 0.48829 * Math.cos(t) + 0.14128 * Math.cos(2 * t) - 0.01168 * Math.cos(3 * t);
      re += w * x[i] * Math.cos((2 * Math.PI * hz * i) / RATE);
      im += w * x[i] * Math.sin((2 * Math.PI * hz * i) / RATE);
      sum += w;
    }
    return (2 * Math.hypot(re, im)) / sum;
  };
  const rms = (x: Float64Array) => Math.sqrt(x.reduce((sum, v) => sum + v * v, 0) / x.length);

  it.each(sounding)(
    '%s %s %s sound by themselves at full resonance: at once, in tune within 5 cents, at one level whatever excites them',
    (mode, form, slope) => {
      const levels: number[] = [];
      for (const hz of [30, 41.2, 55, 220, 880, 3520, 5000]) {
        const excited: [string, (i: number) => number][] = [
          ['nothing', () => 0],
          ['a click', (i) => (i === 0 ? 0.5 : 0)],
          ['a loud tone of 50 ms', (i) => (i < 2400 ? 0.9 * Math.sin(0.013 * i) : 0)],
          ['a soft low tone all along', (i) => 0.01 * Math.sin(0.002 * i)],
        ];
        for (const [what, excites] of excited) {
          const seconds = Math.max(0.6, 24 / hz);
          const x = run(
            { ...base, mode, form, slope, cutoffHz: hz, resonancePct: 100 },
            Float64Array.from({ length: Math.round((seconds * RATE) / 16) * 16 }, (_, i) => excites(i)),
          );
          const early = rms(x.subarray(Math.round(0.15 * RATE), Math.round((0.15 + 2 / hz) * RATE)));
          const late = x.subarray(x.length - Math.round(Math.max(0.1, 12 / hz) * RATE));
          expect([what, hz, early > 0.5 * rms(late)]).toEqual([what, hz, true]);
          if (hz >= 40)
            expect([
              what,
              hz,
              Math.abs(1200 * Math.log2(found(late) / hz)) < 5 || 1200 * Math.log2(found(late) / hz),
            ]).toEqual([what, hz, true]);
          levels.push(db(rms(late)));
        }
        // With something loud all along, looked at at the cutoff alone: its harmonics stand a tenth of an
        // octave or more away.
        const loud: [string, (i: number) => number][] = [
          [
            'a loud saw of five partials',
            (i) =>
              [1, 2, 3, 4, 5].reduce(
                (sum, n) => sum + (0.6 / n) * Math.sin((2 * Math.PI * 0.37 * n * hz * i) / RATE),
                0,
              ),
          ],
          ['a loud sine close by', (i) => 0.9 * Math.sin((2 * Math.PI * 0.8 * hz * i) / RATE)],
        ];
        for (const [what, excites] of loud) {
          const length = 16 * Math.round(((0.5 + 48 / hz) * RATE) / 16);
          const x = run(
            { ...base, mode, form, slope, cutoffHz: hz, resonancePct: 100 },
            Float64Array.from({ length }, (_, i) => excites(i)),
          );
          const late = x.subarray(length - Math.round((40 / hz) * RATE));
          const found2 = 20 * Math.log10(lineAt(late, hz) / Math.SQRT2);
          expect([
            what,
            hz,
            Math.abs(found2 - levels[levels.length - 1]) < 1 || found2 - levels[levels.length - 1],
          ]).toEqual([what, hz, true]);
        }
      }
      expect(Math.max(...levels) - Math.min(...levels)).toBeLessThan(1);
      // Loud enough to be heard, and bounded.
      expect(Math.min(...levels)).toBeGreaterThan(-20);
      expect(Math.max(...levels)).toBeLessThan(12);
    },
  );

  it('a filter that is opened to full resonance within a note sounds within a second at 55 Hz, and keeps its level', () => {
    for (const form of ['state', 'ladder'] as const) {
      const filter: Filter = { ...base, mode: 'low', form, slope: '24', cutoffHz: 55, resonancePct: 100 };
      const engine = new LayerFilter(filter, RATE);
      const numbers = values(filter);
      const out = new Float64Array(RATE * 2);
      for (let at = 0; at < out.length; at += 16) {
        numbers[1] = at < 4800 ? 0 : 100;
        for (let i = 0; i < 16; i++) out[at + i] = 0.05 * Math.sin(0.05 * (at + i));
        engine.process(out, at, at + 16, Float64Array.of(55), numbers, 0);
      }
      expect(db(rms(out.subarray(RATE * 1, RATE * 1.1)) / rms(out.subarray(RATE * 1.5)))).toBeGreaterThan(-6);
    }
  });

  it.each(
    (['low', 'high', 'band'] as const).flatMap((mode) =>
      (['12', '18', '24'] as const).map((slope) => [mode, slope] as const),
    ),
  )(
    'the peak of a ladder, %s %s, stands within 50 cents of the cutoff from 25 %% of the resonance up',
    (mode, slope) => {
      const cutoffHz = 640;
      for (const resonancePct of [25, 37, 50, 70, 90, 95]) {
        const filter: Filter = { ...base, mode, form: 'ladder', slope, cutoffHz, resonancePct };
        // Without what it sounds by itself.
        const alone = run(filter, new Float64Array(16384));
        const h = impulse(filter, 16384).map((v, i) => v - 1e3 * alone[i]);
        const at = Array.from({ length: 71 }, (_, i) => magnitudeAt(h, cutoffHz * 2 ** ((i - 35) / 60)));
        const peaks = at.flatMap((m, i) =>
          i > 0 && i < 70 && m > at[i - 1] && m > at[i + 1] && m > 1.01 * Math.max(at[0], at[70]) ? [i] : [],
        );
        // A gentle high-pass has none at little resonance; wherever there is one it is at the cutoff.
        if (mode !== 'high' || resonancePct >= 70) expect(peaks.length).toBeGreaterThan(0);
        for (const i of peaks)
          expect([resonancePct, Math.abs(20 * (i - 35)) <= 50 || 20 * (i - 35)]).toEqual([
            resonancePct,
            true,
          ]);
      }
    },
  );

  it('a dip lies at the cutoff below zero, a peak above', () => {
    const at = (resonancePct: number, form: 'state' | 'ladder') =>
      db(magnitudeAt(impulse({ ...base, form, slope: form === 'state' ? '12' : '24', resonancePct }), 800)) -
      db(magnitudeAt(impulse({ ...base, form, slope: form === 'state' ? '12' : '24' }), 800));
    for (const form of ['state', 'ladder'] as const) {
      expect(at(60, form)).toBeGreaterThan(6);
      expect(at(-60, form)).toBeLessThan(-6);
    }
  });

  it.each(FILTER_MODES)('%s does not burst while its cutoff is thrown about at audio rate', (mode) => {
    for (const form of ['state', 'ladder'] as const) {
      const x = Float64Array.from(
        { length: 48000 },
        (_, i) => 0.5 * Math.sin(0.01 * i) + 0.2 * Math.sin(0.13 * i),
      );
      run({ ...base, mode, form, resonancePct: 80, widthOct: 0 }, x, (i) => (i % 32 === 0 ? 60 : 9000));
      expect(Math.max(...x.map(Math.abs))).toBeLessThan(12);
      run(
        { ...base, mode, form, resonancePct: 100 },
        x,
        (i) => 600 + 550 * Math.sin((2 * Math.PI * 700 * i) / RATE),
      );
      expect(x.every(Number.isFinite)).toBe(true);
      expect(Math.max(...x.map(Math.abs))).toBeLessThan(60);
    }
  });

  it('ring multiplies by a sine at the cutoff, and by two where it is widened', () => {
    const tone = () =>
      Float64Array.from({ length: 48000 }, (_, i) => Math.sin((2 * Math.PI * 1000 * i) / RATE));
    const one = run({ ...base, mode: 'ring', cutoffHz: 300 }, tone());
    expect(magnitudeAt(one, 1300) / 24000).toBeCloseTo(0.5, 2);
    expect(magnitudeAt(one, 700) / 24000).toBeCloseTo(0.5, 2);
    expect(magnitudeAt(one, 1000) / 24000).toBeLessThan(0.01);
    const dry = run({ ...base, mode: 'ring', cutoffHz: 300, resonancePct: -100 }, tone());
    expect(magnitudeAt(dry, 1000) / 24000).toBeCloseTo(1, 2);
  });

  describe('what folds back', () => {
    const SIZE = 65536;
    const held = (cycles: number, partials: number, gain = 1) => {
      const x = new Float64Array(SIZE + 9600);
      for (let n = 1; n <= partials; n++)
        for (let i = 0; i < x.length; i++)
          x[i] += ((gain * 0.6) / n) * Math.sin((2 * Math.PI * ((n * cycles * i) % SIZE)) / SIZE);
      return x;
    };
    const open = { ...base, mode: 'low' as const, slope: '12' as const, cutoffHz: 20000 };
    const saw = (cycles: number) => held(cycles, Math.floor((20000 / RATE) * (SIZE / cycles)));

    it.each([
      ['a sine on C6 at 24 dB', 1429, 1, 24],
      ['a saw on C4 at 36 dB', 357, 0, 36],
      ['a saw on C5 at 24 dB', 715, 0, 24],
      ['a sine on C7 at 36 dB', 2857, 1, 36],
    ])('of the drive in front of a filter, %s, is under −70 dB', (_name, cycles, partials, driveDb) => {
      for (const form of ['state', 'ladder'] as const) {
        const y = run({ ...open, form, driveDb }, partials === 1 ? held(cycles, 1) : saw(cycles));
        expect(aliasingDb(y.subarray(9600, 9600 + SIZE), cycles, RATE)).toBeLessThan(-70);
      }
    });

    it.each([
      [100, 0],
      [60, 0],
      [0, 0],
      [100, 1],
      [100, 0.3],
    ])('of a ring at %i %% and %f octaves is under −70 dB', (resonancePct, widthOct) => {
      // Carriers that are whole multiples of 1/64 of the tone, so that whatever is no such multiple has been
      // folded.
      const unit = 16;
      const cycles = 64 * unit;
      const hz = (c: number) => (c * RATE) / SIZE;
      const centre = Math.sqrt(70 * 70 * 2 ** widthOct);
      const pair = widthOct === 0 ? [70] : [centre * 2 ** (-widthOct / 2), centre * 2 ** (widthOct / 2)];
      expect(pair[0]).toBeCloseTo(70, 9);
      const y = run(
        { ...base, mode: 'ring', cutoffHz: hz(centre * unit), resonancePct, widthOct },
        held(cycles, 1),
      );
      // With a carrier that is no multiple of the unit only the part below the tone and its carriers'
      // products is looked at.
      if (Number.isInteger(pair[1] ?? 70))
        expect(aliasingDb(y.subarray(9600, 9600 + SIZE), unit, RATE)).toBeLessThan(-70);
      const far = run({ ...base, mode: 'ring', cutoffHz: 3011, resonancePct, widthOct }, saw(64 * unit));
      expect(far.every((v) => Math.abs(v) < 4)).toBe(true);
    });

    it('of a ring of a bright saw is under −70 dB', () => {
      const unit = 40;
      const y = run(
        { ...base, mode: 'ring', cutoffHz: (70 * unit * RATE) / SIZE, resonancePct: 100 },
        saw(16 * unit),
      );
      expect(aliasingDb(y.subarray(9600, 9600 + SIZE), unit, RATE)).toBeLessThan(-70);
    });
  });

  it('comes late by what it says, where it is oversampled', () => {
    const slow = () =>
      Float64Array.from({ length: 9600 }, (_, i) => 0.01 * Math.sin((2 * Math.PI * 100 * i) / RATE));
    const lag = (filter: Filter) => {
      const x = run(filter, slow());
      const phase = (s: Float64Array) => {
        let re = 0;
        let im = 0;
        for (let i = 4800; i < 9600; i++) {
          re += s[i] * Math.cos((2 * Math.PI * 100 * i) / RATE);
          im += s[i] * Math.sin((2 * Math.PI * 100 * i) / RATE);
        }
        return Math.atan2(re, im);
      };
      return ((phase(slow()) - phase(x)) / (2 * Math.PI * 100)) * RATE;
    };
    const plain = { ...base, mode: 'high' as const, slope: '6' as const, cutoffHz: 20 };
    const driven = { ...plain, driveDb: 12 };
    expect(lag(driven) - lag(plain)).toBeCloseTo(
      new LayerFilter(driven, RATE).lateFrames(values(driven), 0),
      1,
    );
    const ring = { ...base, mode: 'ring' as const, resonancePct: -100 };
    expect(lag(ring)).toBeCloseTo(new LayerFilter(ring, RATE).lateFrames(values(ring), 0), 1);
  });
});
