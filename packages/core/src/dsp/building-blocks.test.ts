import { db, noise } from '../testing/signals.js';
import { aliasingDb, amplitudes } from '../testing/spectra.js';
import { python } from '../testing/tools.js';
import { Comb } from './filters/comb.js';
import {
  FEEDBACK_AMOUNT_0,
  FEEDBACK_AMOUNT_1,
  FEEDBACK_DELAY_0,
  FEEDBACK_DELAY_1,
  FeedbackPath,
} from './shaping/feedback-path.js';
import { filterFormantHz, FILTER_VOWELS } from './filters/filter-response.js';
import {
  bandScale,
  bellOf,
  combGain,
  damping,
  dampingOf,
  holdOf,
  ladderFeedback,
  ladderOscillation,
  ladderTuning,
  ladderTunings,
  octavesOf,
  oscillation,
} from './filters/filter-design.js';
import { FORMANTS, formantsOf, glottalSlope } from './waves/formants.js';
import { HALF_BAND_DOWN_DELAY, HalfBandDown } from './rates/half-band-down.js';
import { HalfBandUp } from './rates/half-band-up.js';
import { PARTIAL_HZ, PARTIAL_STRETCH, PartialBank } from './waves/partial-bank.js';
import {
  READ_LOOP_FROM,
  READ_LOOP_TO,
  READ_NUMBERS,
  READ_PLACE,
  READ_SPEED_0,
  READ_SPEED_1,
  readRecording,
} from './waves/sample-reader.js';
import { EDGE_AGE, EDGE_HEIGHT, EDGE_SLOPE, STEP_DELAY, StepCorrector } from './waves/step-corrector.js';

const RATE = 48000;

describe('the half-band up and down', () => {
  const through = (x: Float64Array) => {
    const upper = new Float64Array(2 * x.length);
    const out = new Float64Array(x.length);
    new HalfBandUp().process(x, 0, x.length, upper);
    new HalfBandDown().process(upper, out, 0, x.length);
    return { upper, out };
  };
  const sine = (hz: number, rate = RATE, frames = 8192) =>
    Float64Array.from({ length: frames }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));

  it('are flat to 20 kHz, and bring nothing of their own', () => {
    for (const bin of [10, 200, 1500, 3400]) {
      const { out, upper } = through(sine((bin * RATE) / 8192, RATE, 16384));
      expect(db(amplitudes(out.subarray(8192))[bin])).toBeCloseTo(0, 2);
      const images = amplitudes(upper.subarray(16384));
      images[bin] = 0;
      expect(db(Math.max(...images))).toBeLessThan(-75);
    }
  });

  it('let nothing of the upper half back down', () => {
    for (const hz of [30000, 36000, 47000]) {
      const out = new Float64Array(8192);
      new HalfBandDown().process(sine(hz, 2 * RATE, 16384), out, 0, 8192);
      expect(db(Math.max(...out.subarray(2000).map(Math.abs)))).toBeLessThan(-76);
    }
  });

  it('the lower half comes as late as it says', () => {
    const hz = 200;
    const out = new Float64Array(9600);
    new HalfBandDown().process(sine(hz, 2 * RATE, 19200), out, 0, 9600);
    let re = 0;
    let im = 0;
    for (let i = 4800; i < 9600; i++) {
      re += out[i] * Math.sin((2 * Math.PI * hz * i) / RATE);
      im += out[i] * Math.cos((2 * Math.PI * hz * i) / RATE);
    }
    expect((-Math.atan2(im, re) / (2 * Math.PI * hz)) * RATE).toBeCloseTo(HALF_BAND_DOWN_DELAY, 1);
  });
});

describe('band-limited edges', () => {
  // A square of steps alone: its harmonics are 4/(πn), n odd (Fourier), and what is left off them is what the
  // correction lets through.
  it('make a square of ideal edges whose aliases lie under −80 dB up to a fifth of the rate', () => {
    const frames = 32768;
    for (const cycles of [151, 607, 1999]) {
      const corrector = new StepCorrector();
      const out = new Float64Array(2 * frames);
      const edge = new Float64Array(3);
      const half = frames / cycles / 2;
      let next = half;
      let level = 1;
      for (let i = 0; i < out.length; i++) {
        while (next <= i) {
          level = -level;
          edge[EDGE_AGE] = i - next;
          edge[EDGE_HEIGHT] = 2 * level;
          corrector.correct(edge);
          next += half;
        }
        out[i] = level;
        corrector.push(out, i, i + 1);
      }
      const steady = out.subarray(frames);
      expect(aliasingDb(steady, cycles, 96000, 20000)).toBeLessThan(-80);
      const bins = amplitudes(steady);
      for (let n = 1; n * cycles < 0.2 * frames && n < 12; n += 2)
        expect(Math.abs(db(bins[n * cycles] / (4 / (Math.PI * n))))).toBeLessThan(0.1);
    }
  });

  // A triangle of corners alone: 8/(πn)², n odd.
  it('make a triangle of ideal corners', () => {
    const frames = 32768;
    const cycles = 1999;
    const corrector = new StepCorrector();
    const out = new Float64Array(2 * frames);
    const edge = new Float64Array(3);
    const half = frames / cycles / 2;
    const slope = 2 / half;
    let from = 0;
    let sign = 1;
    for (let i = 0; i < out.length; i++) {
      if (i >= from + half) {
        from += half;
        sign = -sign;
        edge[EDGE_AGE] = i - from;
        edge[EDGE_SLOPE] = 2 * sign * slope;
        corrector.correct(edge);
      }
      out[i] = sign * (-1 + slope * (i - from));
      corrector.push(out, i, i + 1);
    }
    const steady = out.subarray(frames);
    expect(aliasingDb(steady, cycles, 96000, 20000)).toBeLessThan(-80);
    const bins = amplitudes(steady);
    for (const n of [1, 3])
      expect(Math.abs(db(bins[n * cycles] / (8 / (Math.PI * n) ** 2)))).toBeLessThan(0.1);
  });

  it('leave what has no edges as it is, only later', () => {
    const x = Float64Array.from(noise(500));
    const y = Float64Array.from(x);
    new StepCorrector().push(y, 0, 500);
    for (let i = STEP_DELAY; i < 500; i++) expect(y[i]).toBe(x[i - STEP_DELAY]);
  });
});

describe('a comb', () => {
  // Against SciPy: y[n] = level·(x[n] + g·y[n − D]), whole delays, so that nothing is interpolated.
  it.each([
    [false, 0, 0.8],
    [true, 0, 0.8],
    [false, 1, 0.5],
    [true, 1, 0.5],
  ])('negative %p, dips %d, gain %f is SciPy’s', (negative, dips, gain) => {
    const x = new Float64Array(4096);
    x[0] = 1;
    const delay = 96;
    new Comb(negative).process(x, 0, 4096, Float64Array.of(delay, delay, gain, dips));
    const wanted = python<number[]>(
      `
g = data['gain'] * (-1 if data['negative'] else 1) * (-1 if data['dips'] else 1)
tail = np.zeros(97); tail[0] = 1; tail[96] = g if data['dips'] else -g
b, a = (tail / (1 + data['gain']), [1]) if data['dips'] else ([np.sqrt(1 - 0.9 * data['gain'])], tail)
x = np.zeros(4096); x[0] = 1
print(json.dumps(list(signal.lfilter(b, a, x))))`,
      { gain, dips, negative },
    );
    for (let i = 0; i < 4096; i += 3) expect(x[i]).toBeCloseTo(wanted[i], 9);
    for (let i = 0; i < 4096; i += 96) expect(x[i]).toBeCloseTo(wanted[i], 9);
  });

  it('is bounded at full feedback', () => {
    const x = Float64Array.from(noise(96000, 3));
    new Comb(false).process(x, 0, x.length, Float64Array.of(50.3, 50.3, 1, 0));
    expect(Math.max(...x.slice(-2000).map(Math.abs))).toBeLessThan(8);
  });
});

describe('feedback through a delay', () => {
  const run = (compares: boolean, amount: number, delay: number, x: Float64Array) => {
    const numbers = new Float64Array(4);
    numbers[FEEDBACK_AMOUNT_0] = numbers[FEEDBACK_AMOUNT_1] = amount;
    numbers[FEEDBACK_DELAY_0] = numbers[FEEDBACK_DELAY_1] = delay;
    new FeedbackPath(compares, 2400, 1e-4).process(x, 0, x.length, numbers);
    return x;
  };

  it('comes back so much later, rounded', () => {
    const x = new Float64Array(1000);
    x[0] = 0.5;
    run(false, 0.8, 100, x);
    expect([x[0], x[99], x[101]]).toEqual([0.5, 0, expect.closeTo(0, 3)]);
    expect(x[100]).toBeCloseTo((0.8 * 0.5) / Math.sqrt(1.25), 3);
  });

  it('stays within what goes in and twice the amount, whatever goes in', () => {
    for (const compares of [false, true]) {
      for (const delay of [1, 7.5, 2400]) {
        const y = run(
          compares,
          1,
          delay,
          Float64Array.from(noise(20000, 9), (v) => 3 * v),
        );
        expect(Math.max(...y.map(Math.abs))).toBeLessThanOrEqual(3 + 2);
      }
    }
  });

  it('brings no DC of its own', () => {
    const y = run(
      true,
      1,
      30,
      Float64Array.from({ length: 200000 }, (_, i) => 0.2 + 0.5 * Math.sin(i / 40)),
    );
    const tail = y.subarray(100000);
    expect(Math.abs(tail.reduce((sum, v) => sum + v, 0) / tail.length - 0.2)).toBeLessThan(0.02);
  });
});

describe('partials that stand by themselves', () => {
  const bank = (count: number) => {
    const made = new PartialBank(count, RATE);
    made.setPartials(new Float64Array(count).fill(0.1), new Float64Array(count));
    return made;
  };
  const numbers = (hz: number, stretch = 0) => {
    const n = new Float64Array(2);
    n[PARTIAL_HZ] = hz;
    n[PARTIAL_STRETCH] = stretch;
    return n;
  };

  it('keep their length for a minute', () => {
    const made = bank(3);
    made.start(0);
    const out = new Float64Array(16);
    for (let i = 0; i < (60 * RATE) / 16; i++) made.write(out, 0, 16, numbers(100));
    const x = new Float64Array(16384);
    for (let at = 0; at < x.length; at += 16) made.write(x, at, at + 16, numbers(100));
    expect(Math.max(...x)).toBeCloseTo(
      Math.max(
        ...Float64Array.from({ length: 9600 }, (_, i) =>
          [1, 2, 3].reduce((sum, n) => sum + 0.1 * Math.sin((2 * Math.PI * n * 100 * i) / RATE), 0),
        ),
      ),
      3,
    );
  });

  it('are silent where they would stand above the range, and fade on the way there', () => {
    const loud = (hz: number) => {
      const made = bank(2);
      made.start(0);
      const x = new Float64Array(4096);
      for (let at = 0; at < x.length; at += 16) made.write(x, at, at + 16, numbers(hz));
      return Math.sqrt((2 * x.subarray(2048).reduce((sum, v) => sum + v * v, 0)) / 2048);
    };
    expect(loud(5000)).toBeCloseTo(0.1 * Math.SQRT2, 3);
    expect(loud(11000)).toBeCloseTo(0.1, 2);
    expect(loud(10400)).toBeGreaterThan(0.1);
    expect(loud(10400)).toBeLessThan(0.1 * Math.SQRT2);
  });

  it('ring out each in its own time', () => {
    const made = bank(2);
    made.start(0);
    made.ringOut(1, 1);
    const out = new Float64Array(16);
    for (let i = 0; i < RATE / 2 / 16; i++) made.write(out, 0, 16, numbers(100));
    // Looked at every few steps: no more than 2 ms late.
    expect(Math.abs(db(made.ringing) + 30)).toBeLessThan(0.12);
    made.start(0);
    expect(made.ringing).toBe(1);
    made.ringOut(0, 1);
    for (let i = 0; i < 2; i++) made.write(out, 0, 16, numbers(100));
    expect(made.ringing).toBe(0);
  });
});

describe('a recording that is read', () => {
  const numbers = (place: number, speed: number, loop: [number, number] = [0, 0]) => {
    const n = new Float64Array(READ_NUMBERS);
    n[READ_PLACE] = place;
    n[READ_SPEED_0] = n[READ_SPEED_1] = speed;
    [n[READ_LOOP_FROM], n[READ_LOOP_TO]] = loop;
    return n;
  };

  it('at its own speed is itself, within what its low-pass takes', () => {
    const recording = Float32Array.from({ length: 2000 }, (_, i) => Math.sin((2 * Math.PI * 500 * i) / RATE));
    const out = new Float64Array(1000);
    readRecording(recording, out, 0, 1000, numbers(500, 1), true);
    for (let i = 0; i < 1000; i += 7) expect(out[i]).toBeCloseTo(recording[500 + i], 4);
  });

  it('keeps its place for a second channel until it is told to move', () => {
    const recording = new Float32Array(1000).fill(0.5);
    const n = numbers(100, 2);
    const out = new Float64Array(64);
    readRecording(recording, out, 0, 64, n, false);
    expect(n[READ_PLACE]).toBe(100);
    readRecording(recording, out, 0, 64, n, true);
    expect(n[READ_PLACE]).toBeCloseTo(228, 9);
    expect(out[10]).toBeCloseTo(0.5, 6);
  });

  it('loops without a seam', () => {
    const recording = Float32Array.from({ length: 4800 }, (_, i) => Math.sin((2 * Math.PI * 100 * i) / RATE));
    const out = new Float64Array(20000);
    const n = numbers(0, 1, [480, 2400]);
    for (let at = 0; at < out.length; at += 16) readRecording(recording, out, at, at + 16, n, true);
    for (let i = 100; i < 20000; i += 13)
      expect(out[i]).toBeCloseTo(Math.sin((2 * Math.PI * 100 * i) / RATE), 3);
  });

  it('is silence before it begins and after it ends', () => {
    const out = new Float64Array(64);
    readRecording(new Float32Array(100).fill(1), out, 0, 64, numbers(500, 1), true);
    expect(Math.max(...out.map(Math.abs))).toBe(0);
    readRecording(new Float32Array(100).fill(1), out, 0, 64, numbers(-200, 1), true);
    expect(Math.max(...out.map(Math.abs))).toBe(0);
  });
});

describe('what a filter is made of', () => {
  it('damps less the more it rings, without a jump on the way to sounding by itself', () => {
    expect(damping(0)).toBeCloseTo(Math.SQRT2, 12);
    let last = damping(-1);
    for (let r = -0.99; r <= 0.875; r += 0.01) {
      const k = damping(r);
      expect(k).toBeLessThan(last);
      expect(last - k).toBeLessThan(0.08);
      last = k;
    }
    // Where it sounds by itself, what goes through it is damped a little more again, without a jump.
    for (let r = 0.88; r <= 1; r += 0.01) expect(Math.abs(damping(r + 0.01) - damping(r))).toBeLessThan(0.01);
    expect(damping(1)).toBeCloseTo(0.1, 9);
    expect([holdOf(0), holdOf(0.88)]).toEqual([0, 0]);
    expect(holdOf(1)).toBeCloseTo(1.2, 9);
  });

  // Bristow-Johnson's cookbook: a band two octaves wide has Q = 0.667.
  it('goes from damping to octaves and back', () => {
    expect(1 / dampingOf(2)).toBeCloseTo(0.667, 3);
    for (const k of [0.05, 0.3, 1.414, 5]) expect(dampingOf(octavesOf(k))).toBeCloseTo(k, 9);
  });

  it('has a bell as high as the peak it widens', () => {
    expect(db(bellOf(0.5, 1).amplitude ** 2)).toBeCloseTo(db(Math.SQRT2 / damping(0.5)), 6);
    expect(db(bellOf(-0.5, 1).amplitude ** 2)).toBeLessThan(-6);
    expect(bellOf(0.5, 2).k).toBeGreaterThan(bellOf(0.5, 1).k);
    expect(db(bellOf(1, 0.5).amplitude ** 2)).toBeLessThanOrEqual(36.001);
  });

  it('feeds a ladder back to near where it would sound by itself, and tunes it on the way', () => {
    expect([ladderFeedback(0), ladderFeedback(-1)]).toEqual([0, -0.9]);
    for (let r = 0; r <= 1; r += 0.01) expect(ladderFeedback(r)).toBeLessThan(3.7);
    expect(ladderFeedback(1)).toBeCloseTo(3.5, 9);
    const tunings = ladderTunings('low', '24');
    expect([ladderTuning(tunings, 0), ladderTuning(tunings, 4), ladderTuning(tunings, 4.5)]).toEqual([
      1, 1, 1,
    ]);
    // Near 4 the peak is its pole: that of (1 + s)⁴ + k which rings lies at (k/4)^¼ of the stages' cutoff.
    for (const k of [3.7, 3.9]) expect(ladderTuning(tunings, k) * (k / 4) ** 0.25).toBeCloseTo(1, 2);
    // On the way there is no jump.
    for (let k = 0; k < 4; k += 0.01)
      expect(Math.abs(Math.log2(ladderTuning(tunings, k + 0.01) / ladderTuning(tunings, k)))).toBeLessThan(
        0.01,
      );
  });

  it('sounds by itself from 90 % of the resonance, at an amplitude that a ladder’s mix carries on', () => {
    expect([oscillation(0), oscillation(0.9)]).toEqual([0, 0]);
    expect(oscillation(1)).toBeCloseTo(0.5, 9);
    // The last stage alone; the band of a 12 dB mix from the stages' phasors, each √2 lower and 45° later
    // than the one before.
    expect(ladderOscillation([0, 0, 0, 0, 1], 1)).toBeCloseTo(0.5, 9);
    expect(ladderOscillation([0, 0, 1, 0, 0], 1)).toBeCloseTo(1, 9);
    expect(ladderOscillation([1, 0, 0, 0, 0], 1)).toBeCloseTo(2, 9);
    expect(ladderOscillation([0, 0, 1, 0, 1], 1)).toBeCloseTo(0.5 * Math.hypot(2, 1), 9);
    expect([bandScale(0.3, 0.5), bandScale(0.02, 0.88)]).toEqual([0.3, 0.05]);
    expect(bandScale(0.1, 1)).toBeCloseTo(1, 9);
  });

  it('gives a comb nothing at no resonance, and all at full', () => {
    expect([combGain(0, 0), combGain(1, 0)]).toEqual([0, 1]);
    expect(combGain(-0.5, 0)).toBeCloseTo(combGain(0.5, 0), 12);
    expect(combGain(0.8, 2)).toBeCloseTo(combGain(0.8, 0) / 2, 12);
  });
});

describe('formants', () => {
  it('are five to a vowel, rising, higher for women and children', () => {
    for (const speaker of ['men', 'women', 'children'] as const) {
      for (const vowel of Object.keys(FORMANTS.men) as (keyof typeof FORMANTS.men)[]) {
        const five = formantsOf(speaker, vowel);
        expect(five).toHaveLength(5);
        five.slice(1).forEach((hz, i) => {
          expect(hz).toBeGreaterThan(five[i]);
        });
        if (speaker !== 'men') expect(FORMANTS[speaker][vowel][2]).toBeGreaterThan(FORMANTS.men[vowel][2]);
      }
    }
  });

  // Peterson and Barney (1952), men: the values that measures.md gives.
  it('of men are those of the design', () => {
    expect([
      FORMANTS.men.i,
      FORMANTS.men.ɛ,
      FORMANTS.men.æ,
      FORMANTS.men.ɑ,
      FORMANTS.men.ɔ,
      FORMANTS.men.u,
      FORMANTS.men.ɝ,
    ]).toEqual([
      [270, 2290, 3010],
      [530, 1840, 2480],
      [660, 1720, 2410],
      [730, 1090, 2440],
      [570, 840, 2410],
      [300, 870, 2240],
      [490, 1350, 1690],
    ]);
  });

  it('of the vowel filter pass from one vowel to the next by equal ratios', () => {
    FILTER_VOWELS.forEach((vowel, i) => {
      expect(filterFormantHz(0, (100 * i) / (FILTER_VOWELS.length - 1))).toBeCloseTo(
        FORMANTS.men[vowel][0],
        6,
      );
    });
    const half = filterFormantHz(1, 50 / (FILTER_VOWELS.length - 1));
    expect(half).toBeCloseTo(Math.sqrt(FORMANTS.men.i[1] * FORMANTS.men.ɪ[1]), 6);
  });

  it('are sung by a source that opens, closes faster, and rests', () => {
    expect(glottalSlope(0.2)).toBeCloseTo(0.4, 9);
    expect(Math.min(...Array.from({ length: 1000 }, (_, i) => glottalSlope(i / 1000)))).toBeCloseTo(-1, 2);
    expect([glottalSlope(0.6), glottalSlope(0.99)]).toEqual([0, 0]);
  });
});
