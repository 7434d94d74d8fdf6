import { amplitudeAt, db, RATE, saw, sine } from '../../../testing/signals.js';
import { aliasingDb } from '../../../testing/spectra.js';
import { rmsOf, through, throughBands } from '../../../testing/chain.js';

const gainOf = (decibels: number) => 10 ** (decibels / 20);
/** What is known of each curve, stated here anew. */
const CURVES: Record<string, (x: number) => number> = {
  'soft clip': (x) => x / Math.sqrt(1 + x * x),
  'hard clip': (x) => Math.min(1, Math.max(-1, x)),
  // Half a lean: 1 − 0.85·0.5 as the lower end.
  tube: (x) => (x < 0 ? x / Math.sqrt(1 + (x / 0.575) ** 2) : x / Math.sqrt(1 + x * x)),
  tape: (x) => (Math.abs(x) > 1.5 ? Math.sign(x) : x - (4 / 27) * x ** 3),
  fold: (x) => (2 / Math.PI) * Math.asin(Math.sin((Math.PI / 2) * x)),
  'sine fold': (x) => Math.sin((Math.PI / 2) * x),
  rectify: (x) => Math.abs(x),
  compare: (x) => Math.min(1, Math.max(-1, 1000 * x)),
};
const KINDS = Object.keys(CURVES);
/** Parameters that leave the curve by itself. */
const plain = (kind: string) => (kind === 'tape' ? { kind, riseDb: 0 } : { kind });

/** Amplitude of harmonic n of a curve driven by a sine, with its sign left out: the mean over a cycle. */
function fourier(curve: (x: number) => number, size: number, n: number, bias = 0): number {
  const steps = 50000;
  let re = 0;
  let im = 0;
  for (let i = 0; i < steps; i++) {
    const t = (2 * Math.PI * (i + 0.5)) / steps;
    const y = curve(size * Math.sin(t) + bias);
    re += (2 / steps) * y * Math.cos(n * t);
    im += (2 / steps) * y * Math.sin(n * t);
  }
  return Math.hypot(re, im);
}

describe('shapers', () => {
  // Fourier coefficients by numeric integration of the curve as its docstring has it.
  it.each(
    KINDS.flatMap((kind) => [
      [kind, 0, 0],
      [kind, 12, 0],
      [kind, 9, 30],
    ]) as [string, number, number][],
  )('%s at %d dB, bias %d %%: harmonics of a sine are those of its curve', (kind, driveDb, biasPct) => {
    const [y] = through(sine(100, 1, { amplitude: 0.8 }), [{ ...plain(kind), driveDb, biasPct }]);
    const heard = y.subarray(RATE / 2, RATE);
    const whole = rmsOf(heard);
    for (let n = 1; n <= 9; n++) {
      const wanted = fourier(CURVES[kind], 0.8 * gainOf(driveDb), n, biasPct / 100);
      expect(Math.abs(amplitudeAt(heard, 100 * n) - wanted)).toBeLessThan(0.004 * whole);
    }
    // What is not even-handed leaves no DC.
    expect(Math.abs(heard.reduce((sum, x) => sum + x, 0) / heard.length)).toBeLessThan(2e-3);
  });

  // The bounds: −70 dB up to 2 kHz, −55 dB at 5 kHz, at 24 dB of drive; a sweep of sines in whole cycles.
  it.each(KINDS)('%s: what folds back stays under −70 dB to 2 kHz and −55 dB at 5 kHz', (kind) => {
    const frames = 16384;
    for (const hz of [61, 233, 601, 997, 1453, 1777, 2000, 3163, 5000]) {
      const cycles = Math.round((hz * frames) / RATE) | 1;
      const x = sine((cycles * RATE) / frames, (2 * frames) / RATE);
      const [y] = through(x, [{ ...plain(kind), driveDb: 24 }]);
      // Below 24 cycles harmonics stand too close to tell.
      if (cycles < 24) continue;
      expect(aliasingDb(y.subarray(frames), cycles, RATE)).toBeLessThan(hz <= 2000 ? -70 : -55);
    }
  });

  it.each(KINDS)('%s: the dry share is in step with it: no wet is what went in', (kind) => {
    const x = saw(55, 0.5, { belowHz: 4000 });
    const [y] = through(x, [{ ...plain(kind), wetPct: 0, driveDb: 20, biasPct: 40 }]);
    const still = (from: Float32Array) => from.subarray(4800, 19200);
    const off = Float32Array.from(still(x), (v, i) => v - still(y)[i]);
    expect(db(rmsOf(off) / rmsOf(still(x)))).toBeLessThan(-40);
  });

  it('an emphasis bends what it raises more, and is taken back where nothing bends', () => {
    const low = sine(100, 1, { amplitude: 0.001 });
    const both = Float32Array.from(sine(3000, 1, { amplitude: 0.001 }), (x, i) => x + low[i]);
    for (const emphasis of ['bell', 'tilt']) {
      const unit = { kind: 'soft clip', driveDb: 0, emphasis, emphasisHz: 3000, emphasisDb: 18 };
      const [small] = through(both, [unit]);
      const heard = small.subarray(24000, 48000);
      for (const hz of [100, 3000]) expect(db(amplitudeAt(heard, hz) / 0.001)).toBeCloseTo(0, 1);
    }
    // A bell raises what stands at it; a tilt about 3 kHz lowers what lies below.
    const third = (hz: number, unit: object) =>
      amplitudeAt(
        through(sine(hz, 1, { amplitude: 0.3 }), [
          { kind: 'soft clip', driveDb: 0, emphasisHz: 3000, ...unit },
        ])[0].subarray(24000, 48000),
        3 * hz,
      );
    const more = (hz: number, emphasis: string) =>
      db(third(hz, { emphasis, emphasisDb: 18 }) / third(hz, { emphasisDb: 0 }));
    expect(more(3000, 'bell')).toBeGreaterThan(6);
    expect(more(100, 'bell')).toBeCloseTo(0, 0);
    expect(more(100, 'tilt')).toBeLessThan(-12);
  });

  it('compares with another band of the same sound: up where it stands above it', () => {
    const low = sine(50, 1, { amplitude: 0.4 });
    const both = Float32Array.from(sine(2000, 1, { amplitude: 0.3 }), (x, i) => x + low[i]);
    const bands = (other: string) => ({
      crossoversHz: [300],
      bands: [
        { id: 'low', units: [{ kind: 'tilt', levelDb: -48 }] },
        { id: 'high', units: [{ kind: 'compare', with: other }] },
      ],
    });
    const heard = (other: string) => throughBands(both, bands(other))[0].subarray(24000, 48000);
    // Alone it is a square wave of 2 kHz; against the lows its pulses widen and narrow with them.
    expect(amplitudeAt(heard('level'), 2000)).toBeCloseTo(4 / Math.PI, 1);
    expect(amplitudeAt(heard('level'), 50)).toBeLessThan(0.02);
    expect(amplitudeAt(heard('low'), 50)).toBeGreaterThan(0.2);
  });

  it('tape lifts the lows, and hisses only when it is asked to', () => {
    const gain = (hz: number, unit: object) =>
      db(
        amplitudeAt(
          through(sine(hz, 1, { amplitude: 0.001 }), [{ kind: 'tape', driveDb: 0, ...unit }])[0].subarray(
            24000,
          ),
          hz,
        ) / 0.001,
      );
    expect(gain(90, { riseDb: 4, riseHz: 90 })).toBeCloseTo(4, 1);
    expect(gain(3000, { riseDb: 4, riseHz: 90 })).toBeCloseTo(0, 1);
    const [silent] = through(new Float32Array(RATE), [{ kind: 'tape' }]);
    expect(rmsOf(silent)).toBe(0);
    const [hiss] = through(new Float32Array(RATE), [{ kind: 'tape', hissDb: -60 }]);
    expect(db(rmsOf(hiss))).toBeGreaterThan(-63);
    expect(db(rmsOf(hiss))).toBeLessThan(-57);
  });
});

describe('crush', () => {
  it('rounds to the levels of its bits, and holds samples at its rate', () => {
    const x = sine(50, 0.2, { amplitude: 0.9 });
    const [y] = through(x, [{ kind: 'crush', driveDb: 0, bits: 4, rateHz: 96000 }]);
    const levels = new Set([...y].map((v) => Math.round(v * 8 * 1e6) / 1e6));
    for (const level of levels) expect(Number.isInteger(level)).toBe(true);
    expect(levels.size).toBe(15);
    const [held] = through(x, [{ kind: 'crush', driveDb: 0, bits: 16, rateHz: 4800 }]);
    let changes = 0;
    for (let i = 1; i < held.length; i++) if (held[i] !== held[i - 1]) changes++;
    expect(Math.abs(changes - 0.2 * 4800)).toBeLessThan(12);
  });

  it('with dither its error no longer depends on the signal; with jitter its pace varies', () => {
    const x = sine(100, 1, { amplitude: 0.02 });
    const third = (ditherPct: number) =>
      amplitudeAt(
        through(x, [{ kind: 'crush', driveDb: 0, bits: 6, rateHz: 96000, ditherPct }])[0].subarray(0, 48000),
        300,
      );
    expect(db(third(100) / third(0))).toBeLessThan(-15);
    const gaps = (jitterPct: number) => {
      const [y] = through(sine(50, 0.2), [{ kind: 'crush', driveDb: 0, bits: 16, rateHz: 3000, jitterPct }]);
      const at = [...y.keys()].filter((i) => i > 0 && y[i] !== y[i - 1]);
      return new Set(at.map((place, i) => place - (at[i - 1] ?? 0)).slice(1)).size;
    };
    expect(gaps(0)).toBeLessThanOrEqual(3);
    expect(gaps(80)).toBeGreaterThan(8);
  });
});
