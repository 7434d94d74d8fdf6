import { amplitudeAt, db, noise, RATE, saw, sine } from '../../../testing/signals.js';
import { amplitudes, bessel } from '../../../testing/spectra.js';
import { middleOf, rmsOf, through } from '../../../testing/chain.js';

const n = 65536;
const impulse = (at = 0) => {
  const x = new Float32Array(n);
  x[at] = 1;
  return x;
};
const bin = (hz: number) => Math.round((hz * n) / RATE);
const sideOf = ([l, r]: readonly Float32Array[]) => l.map((x, i) => (x - r[i]) / 2);

describe('delay', () => {
  const unit = (more: object) => ({ kind: 'delay', wetPct: 100, lowCutHz: 20, highCutHz: 20000, ...more });
  const echoes = (signal: Float32Array, from = 0.02) =>
    [...signal.keys()].filter((i) => Math.abs(signal[i]) > from);

  it.each([
    [{ timing: 'ms', ms: 123.4 }, 140, 0.1234],
    [{ timing: 'beats', beats: 0.75 }, 140, (0.75 * 60) / 140],
    [{ timing: 'beats', beats: 1 / 3 }, 174, 60 / 174 / 3],
  ])('%j at %d bpm comes after %d s, to a sample, each echo as much softer', (time, tempoBpm, seconds) => {
    const [y] = through(impulse(), [unit({ ...time, pingPong: false, feedbackPct: 50 })], { tempoBpm });
    const frames = Math.round(seconds * RATE);
    const at = echoes(y);
    at.slice(0, 3).forEach((place, k) => {
      expect(place).toBe((k + 1) * frames);
      expect(y[place]).toBeCloseTo(0.5 ** k, 6);
    });
  });

  it('ping-pong: left first, then right, then left', () => {
    const [l, r] = through(impulse(), [unit({ timing: 'ms', ms: 100, pingPong: true, feedbackPct: 60 })]);
    expect(echoes(l, 0.1).slice(0, 2)).toEqual([4800, 14400]);
    expect(echoes(r, 0.1).slice(0, 2)).toEqual([9600, 19200]);
  });

  it('each echo loses what its cuts take, and its clip bounds it', () => {
    const x = Float32Array.from({ length: 2 * RATE }, (_, i) =>
      i < 2400 ? 0.5 * Math.sin((2 * Math.PI * 4000 * i) / RATE) : 0,
    );
    const level = (more: object, echo: number) => {
      const [y] = through(x, [unit({ timing: 'ms', ms: 200, pingPong: false, feedbackPct: 90, ...more })]);
      return db(rmsOf(y.subarray(echo * 9600 + 600, echo * 9600 + 2200)));
    };
    expect(level({}, 3) - level({}, 2)).toBeCloseTo(db(0.9), 1);
    expect(level({ highCutHz: 1000 }, 3) - level({ highCutHz: 1000 }, 2)).toBeLessThan(-12);
    const [loud] = through(
      noise(3 * RATE).map((v) => 2 * v),
      [unit({ timing: 'ms', ms: 10, feedbackPct: 98, driveDb: 12 })],
    );
    expect(loud.reduce((most, v) => Math.max(most, Math.abs(v)), 0)).toBeLessThan(6);
  });
});

describe('flanger and phaser', () => {
  it('a flanger’s dips lie at the odd multiples of 1/(2·delay), or on the whole ones', () => {
    const still = { kind: 'flanger', rateHz: 0, depthPct: 0, feedbackPct: 0, delayMs: 2, spreadPct: 0 };
    const between = amplitudes(through(impulse(), [still])[0]);
    const on = amplitudes(through(impulse(), [{ ...still, teeth: 'on' }])[0]);
    for (const k of [0, 1, 2, 5]) {
      const dip = bin((2 * k + 1) / (2 * 0.002));
      expect(db(between[dip] / between[bin(k / 0.002 + 1)])).toBeLessThan(-30);
      expect(db(on[dip] / between[bin(k / 0.002 + 1)])).toBeGreaterThan(-0.5);
    }
  });

  it.each([4, 8, 12])('a phaser of %d stages has its dips where the formula puts them', (stages) => {
    const unit = {
      kind: 'phaser',
      stages: String(stages),
      rateHz: 0,
      feedbackPct: 0,
      centreHz: 900,
      spreadPct: 0,
    };
    const bins = amplitudes(through(impulse(), [unit])[0]).map((x) => (x * n) / 2);
    for (let k = 0; k < stages / 2; k++) {
      // f·tan((2k+1)·π/(2N)), on the bilinear axis.
      const wanted = Math.tan(((2 * k + 1) * Math.PI) / (2 * stages)) * Math.tan((Math.PI * 900) / RATE);
      const dip = bin((Math.atan(wanted) * RATE) / Math.PI);
      const least = Math.min(...bins.subarray(dip - 2, dip + 3));
      expect(db(least)).toBeLessThan(-30);
    }
    expect(db(bins[bin(20)])).toBeCloseTo(0, 0);
  });
});

describe('shift', () => {
  it.each([
    [440, 100],
    [440, -100],
    [2000, 37.5],
    [60, 25],
  ])('a sine of %d Hz moves by %d Hz, the other sideband under −60 dB', (hz, shiftHz) => {
    const [y] = through(sine(hz, 3, { amplitude: 0.5 }), [{ kind: 'shift', shiftHz }]);
    const heard = y.subarray(RATE, 3 * RATE);
    expect(db(amplitudeAt(heard, hz + shiftHz) / 0.5)).toBeCloseTo(0, 1);
    expect(db(amplitudeAt(heard, hz - shiftHz) / 0.5)).toBeLessThan(-60);
    expect(db(amplitudeAt(heard, hz) / 0.5)).toBeLessThan(-60);
  });
});

describe('what widens', () => {
  // The bound: what lies below stays mono within 0.05 dB.
  it.each([
    ['unison', { wetPct: 100, voices: 7, detuneCt: 25, widthPct: 100 }],
    ['widener', { widthPct: 200, apartPct: 100 }],
    ['chorus', { wetPct: 100 }],
    ['hall', { wetPct: 100, decayS: 3 }],
    ['pan', { panPct: 80 }],
  ])('%s leaves what is below its bound mono within 0.05 dB, and widens what is above', (kind, more) => {
    const unit = { kind, aboveHz: 150, ...more };
    const monoLoss = (hz: number) => {
      const out = through(sine(hz, 2, { amplitude: 0.5 }), [unit]);
      const late = out.map((side) => side.subarray(RATE));
      const power = (late as Float32Array[]).reduce((sum, side) => sum + rmsOf(side) ** 2, 0) / 2;
      return 10 * Math.log10(rmsOf(middleOf(late)) ** 2 / power);
    };
    for (const hz of [43.65, 80, 120, 149]) expect(Math.abs(monoLoss(hz))).toBeLessThan(0.05);
    const wide = [800, 1500, 3100].map(monoLoss);
    expect(Math.min(...wide)).toBeLessThan(-0.5);
  });

  it('a widener leaves the sum of both sides as it was', () => {
    const x = [saw(110, 1), noise(RATE, 4)];
    const y = through(x, [{ kind: 'widener', widthPct: 170, apartPct: 80 }]);
    const off = middleOf(y).map((v, i) => v - (x[0][i] + x[1][i]) / 2);
    expect(db(rmsOf(off) / rmsOf(x[0]))).toBeLessThan(-100);
  });

  it('unison strays by no more than its detune, and by about as much', () => {
    const [y] = through(sine(1000, 6), [
      { kind: 'unison', wetPct: 100, voices: 2, detuneCt: 30, widthPct: 100, aboveHz: 20 },
    ]);
    // The left side is one voice alone: its frequency, from its zero crossings.
    const cents: number[] = [];
    let last = NaN;
    for (let i = RATE; i < y.length; i++) {
      if (!(y[i - 1] < 0 && y[i] >= 0)) continue;
      const at = i - y[i] / (y[i] - y[i - 1]);
      if (last === last) cents.push(1200 * Math.log2(RATE / (at - last) / 1000));
      last = at;
    }
    const most = Math.max(...cents.map(Math.abs));
    expect(most).toBeLessThan(33);
    expect(most).toBeGreaterThan(22);
  });

  it('chorus swings its copies: a steady tone grows sidebands', () => {
    const y = through(sine(1000, 4), [
      { kind: 'chorus', wetPct: 100, rateHz: 2, aboveHz: 20, spreadPct: 100 },
    ]);
    const bins = amplitudes(y[0].subarray(RATE, RATE + n));
    expect(db(bins[bin(1002)] / bins[bin(1000)])).toBeGreaterThan(-25);
    expect(rmsOf(sideOf(y))).toBeGreaterThan(0.1);
  });
});

describe('combs, rough delay and pan', () => {
  it('a comb rings at its frequency and its multiples', () => {
    const unit = {
      kind: 'combs',
      wetPct: 100,
      rateHz: 0,
      combs: [{ tuned: 'free', hz: 240, resonancePct: 90 }],
    };
    const bins = amplitudes(through(impulse(), [unit])[0]);
    const peak = (hz: number) => Math.max(...bins.subarray(bin(hz) - 3, bin(hz) + 4));
    for (const k of [1, 2, 3, 7]) expect(db(peak(240 * k) / peak(240 * (k + 0.5)))).toBeGreaterThan(20);
  });

  it('one that is tuned to the note stands an interval above F1 where nothing is played', () => {
    const unit = { kind: 'combs', wetPct: 100, rateHz: 0, combs: [{ semitones: 24, resonancePct: 90 }] };
    const bins = amplitudes(through(impulse(), [unit])[0]);
    const peak = (hz: number) => Math.max(...bins.subarray(bin(hz) - 3, bin(hz) + 4));
    expect(db(peak(4 * 43.654) / peak(6 * 43.654))).toBeGreaterThan(15);
  });

  it('a rough delay grows sidebands by its sine, and noise by its noise', () => {
    const y = (source: string) =>
      through(sine(2000, 3), [
        { kind: 'rough delay', source, rateHz: 300, delayMs: 1, depthPct: 5 },
      ])[0].subarray(RATE, 2 * RATE);
    // Phase modulation by 2π·2000 Hz·0.05 ms: its sidebands are Bessel functions (Chowning, 1973).
    const index = 2 * Math.PI * 2000 * 0.00005;
    const ratio = amplitudeAt(y('sine'), 2300) / amplitudeAt(y('sine'), 2000);
    expect(db(ratio)).toBeCloseTo(db(bessel(1, index) / bessel(0, index)), 1);
    expect(db(amplitudeAt(y('noise'), 2151) / amplitudeAt(y('sine'), 2151))).toBeGreaterThan(20);
  });

  it('pan keeps the power', () => {
    for (const panPct of [-100, -40, 0, 70, 100]) {
      const [l, r] = through(sine(1000, 1), [{ kind: 'pan', panPct, aboveHz: 20 }]);
      expect(rmsOf(l) ** 2 + rmsOf(r) ** 2).toBeCloseTo(1, 2);
      if (panPct === -100) expect(rmsOf(r)).toBeLessThan(1e-6);
    }
  });
});

describe('hall', () => {
  /** Time in which an octave band of the answer falls by 60 dB: Schroeder’s integration, −5 to −25 dB. */
  function decay(answer: ArrayLike<number>, centreHz: number): number {
    const bins = amplitudesOf(answer, centreHz);
    const energy = new Float64Array(bins.length + 1);
    for (let i = bins.length - 1; i >= 0; i--) energy[i] = energy[i + 1] + bins[i] ** 2;
    const at = (level: number) => energy.findIndex((e) => 10 * Math.log10(e / energy[0]) < level);
    return (3 * (at(-25) - at(-5))) / RATE;
  }
  /** An octave of a signal, by sections of the equaliser. */
  const amplitudesOf = (answer: ArrayLike<number>, centreHz: number) =>
    through(answer, [
      {
        kind: 'equaliser',
        sections: [
          { form: 'low cut', hz: centreHz / Math.SQRT2, slope: '48' },
          { form: 'high cut', hz: centreHz * Math.SQRT2, slope: '48' },
        ],
      },
    ])[0];
  const answer = (more: object, seconds = 6) => {
    const x = new Float32Array(seconds * RATE);
    x[0] = 1;
    return through(x, [{ kind: 'hall', wetPct: 100, aboveHz: 20, preDelayMs: 0, ...more }]);
  };

  it.each([
    [{ sizePct: 30, decayLowS: 1.5, decayS: 1, decayHighS: 0.5 }],
    [{ sizePct: 0, decayLowS: 0.5, decayS: 0.8, decayHighS: 0.6 }],
    [{ sizePct: 100, decayLowS: 3, decayS: 2.2, decayHighS: 1.4 }],
    [{ sizePct: 50, decayLowS: 1, decayS: 3, decayHighS: 0.8 }],
  ])('decays as %j asks within 10 %% in each band', (more) => {
    const [y] = answer(more);
    for (const [hz, wanted] of [
      [100, more.decayLowS],
      [1000, more.decayS],
      [9000, more.decayHighS],
    ])
      expect(Math.abs(decay(y, hz) / wanted - 1)).toBeLessThan(0.1);
  });

  // A ringing tone stands out of a spectrum that is otherwise noise: of the largest of many bins of noise, 10·log10(ln N)
  // ≈ 9.5 dB is expected.
  it.each([0, 30, 100])('at a size of %d %% no tone rings out of its late spectrum', (sizePct) => {
    const [y] = answer({ sizePct, decayLowS: 2, decayS: 2, decayHighS: 2 });
    const late = y.subarray(RATE, RATE + 32768);
    const bins = amplitudes(late.map((x, i) => x * Math.sin((Math.PI * i) / 32768) ** 2));
    for (let from = 200; from < 8000; from *= 2) {
      const band = bins.subarray(Math.round((from * 32768) / RATE), Math.round((2 * from * 32768) / RATE));
      const mean = band.reduce((sum, a) => sum + a * a, 0) / band.length;
      expect(10 * Math.log10(Math.max(...band) ** 2 / mean)).toBeLessThan(15);
    }
  });

  it.each([
    [{ sizePct: 0, decayLowS: 20, decayS: 0.1, decayHighS: 20 }],
    [{ sizePct: 100, decayLowS: 0.1, decayS: 20, decayHighS: 0.1 }],
    [{ sizePct: 50, decayLowS: 20, decayS: 20, decayHighS: 20 }],
  ])('is stable at %j: what rings falls', (more) => {
    const [y] = answer(more, 8);
    const power = (fromS: number) => rmsOf(y.subarray(fromS * RATE, (fromS + 1) * RATE));
    expect(power(7)).toBeLessThan(power(1));
    expect(y.every(Number.isFinite)).toBe(true);
  });

  it('begins after its pre-delay, and its width goes from mono to wide', () => {
    const first = ([l]: Float32Array[]) => l.findIndex((x) => Math.abs(x) > 1e-4);
    expect(first(answer({ preDelayMs: 100 }, 1)) - first(answer({}, 1))).toBe(4800);
    expect(rmsOf(sideOf(answer({ widthPct: 0 }, 1)))).toBeLessThan(1e-9);
    const wide = answer({}, 1);
    expect(rmsOf(sideOf(wide)) / rmsOf(middleOf(wide))).toBeGreaterThan(0.5);
  });
});
