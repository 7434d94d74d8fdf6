import { lowLoudness, weightedLows } from './low-loudness.js';
import { measureLoudness } from './loudness.js';
import { bandEnvelopes, wobbleOf } from './moving-band.js';
import { energyWithin, powerSpectrum } from './power-spectrum.js';
import { glareOf, mudDb, subToBodyDb } from './tone.js';
import { noise, RATE, saw, sine } from '../testing/signals.js';

const of = (...channels: Float32Array[]) => powerSpectrum({ channels, sampleRateHz: RATE, loop: true });
const mix = (...signals: Float32Array[]) =>
  signals[0].map((_, i) => signals.reduce((sum, signal) => sum + signal[i], 0));
/** Harmonics of a note at 1/n, each raised as a bell does that peaks at a frequency (Bristow-Johnson's analogue prototype). */
function sawWithPeak(f0Hz: number, peakHz: number, gainDb: number, q: number): Float32Array {
  const a = 10 ** (gainDb / 40);
  const gain = (hz: number) => {
    const w = hz / peakHz;
    return Math.hypot(1 - w * w, (w * a) / q) / Math.hypot(1 - w * w, w / (a * q));
  };
  // One cycle, over and over: the fundamental is a whole number of frames.
  const period = RATE / f0Hz;
  const cycle = new Float64Array(period);
  for (let n = 1; n * f0Hz < 16000; n++)
    for (let i = 0; i < period; i++)
      cycle[i] += ((0.2 * gain(n * f0Hz)) / n) * Math.sin((2 * Math.PI * n * i) / period + n * n);
  const out = Float32Array.from({ length: 2 * RATE }, (_, i) => cycle[i % period]);
  return out;
}

describe('power spectrum', () => {
  it('holds the mean square of both sides: a half for a full sine, a quarter where one side is silent', () => {
    const whole = energyWithin(of(sine(60, 2)), 20, 20000);
    expect(whole).toBeCloseTo(0.5, 3);
    const silent = new Float32Array(2 * RATE);
    expect(energyWithin(of(sine(60, 2), silent), 20, 20000)).toBeCloseTo(0.25, 3);
    expect(energyWithin(of(sine(60, 2), sine(60, 2, { phaseDeg: 180 })), 40, 90)).toBeCloseTo(0.5, 3);
    expect(energyWithin(of(sine(60, 2)), 90, 20000)).toBeLessThan(1e-6);
  });

  it('is as Welch’s of the signal’s own mean square for noise', () => {
    const hiss = noise(4 * RATE);
    const square = hiss.reduce((sum, x) => sum + x * x, 0) / hiss.length;
    expect(energyWithin(of(hiss), 0, 24000) / square).toBeCloseTo(1, 1);
  });
});

describe('sub to body and mud', () => {
  it('are the ratios of known tones', () => {
    const sound = of(mix(sine(50, 2, { amplitude: 0.5 }), sine(150, 2, { amplitude: 0.25 })));
    expect(subToBodyDb(sound).value).toBeCloseTo(6.02, 1);
    const muddy = of(
      mix(sine(100, 2, { amplitude: 0.3 }), sine(300, 2, { amplitude: 0.3 }), sine(50, 2, { amplitude: 1 })),
    );
    expect(mudDb(muddy).value).toBeCloseTo(-3.01, 1);
  });

  it('show missing low mids as much as an excess, and tell why in silence', () => {
    expect(subToBodyDb(of(sine(45, 2))).value).toBeGreaterThan(60);
    expect(subToBodyDb(of(new Float32Array(2 * RATE))).reason).toBe('nothing sounds there');
    expect(mudDb(of(new Float32Array(2 * RATE))).value).toBeNull();
  });
});

describe('glare', () => {
  // The values are the design's: a plain saw under 1, a peak of 12 dB 4 to 5.
  it.each([41.2, 55, 110])('is under 1 dB for a plain saw of %d Hz', (hz) => {
    expect(glareOf(of(saw(hz, 2)), hz).db.value).toBeLessThan(1);
  });

  it.each([1500, 2400, 3600, 6000])('is 4 to 5 dB for a peak of 12 dB at %d Hz, and says where', (hz) => {
    const { db, peaks } = glareOf(of(sawWithPeak(50, hz, 12, 5)), 50);
    expect(db.value).toBeGreaterThan(3.9);
    expect(db.value).toBeLessThan(5.1);
    expect(Math.abs(Math.log2(peaks[0].hz / hz))).toBeLessThan(1 / 8);
  });

  it('does not know what lies outside of 1 to 8 kHz, or is not heard for the rest', () => {
    expect(glareOf(of(sawWithPeak(50, 400, 14, 5)), 50).db.value).toBeLessThan(1);
    expect(glareOf(of(sine(50, 2)), 50).db.reason).toBe('nothing sounds from 1 to 8 kHz');
    expect(glareOf(of(new Float32Array(RATE)), 50).db.reason).toBe('there is only silence');
  });
});

describe('loudness of lows at a low rate', () => {
  it.each([40, 50, 63, 80, 100, 120])('is that of BS.1770 at 48 kHz for a sine of %d Hz', (hz) => {
    const whole = measureLoudness({
      channels: [sine(hz, 3, { amplitude: 0.4 }), sine(hz, 3, { amplitude: 0.4 })],
      sampleRateHz: RATE,
      loop: true,
    }).integrated.value!;
    const low = sine(hz, 3, { amplitude: 0.4, rate: 3000 });
    expect(lowLoudness(weightedLows(low, 3000, true))).toBeCloseTo(whole, 1);
  });
});

describe('wobble found', () => {
  const wobbling = (rateHz: number, seconds: number, depth = 0.9) =>
    saw(55, seconds).map(
      (x, i) => x * (1 - depth * (0.5 + 0.5 * Math.cos((2 * Math.PI * rateHz * i) / RATE))),
    );

  it.each([1.17, 2.33, 4.67, 7, 9.33, 14])('finds a tremolo of %d Hz within 2 %', (hz) => {
    const found = wobbleOf(bandEnvelopes(wobbling(hz, 3), RATE), 0, 3, [hz]);
    expect(Math.abs(found.value! / hz - 1)).toBeLessThan(0.02);
  });

  it('looks at the stretch it is asked for alone', () => {
    const joined = Float32Array.from([...wobbling(3, 1.5), ...wobbling(8, 1.5)]);
    const envelopes = bandEnvelopes(joined, RATE);
    expect(Math.abs(wobbleOf(envelopes, 0, 1.45, [3, 8]).value! / 3 - 1)).toBeLessThan(0.03);
    expect(Math.abs(wobbleOf(envelopes, 1.55, 2.95, [3, 8]).value! / 8 - 1)).toBeLessThan(0.03);
  });

  it('is null, with a reason, under two cycles, where nothing moves, and for a stretch of next to nothing', () => {
    const envelopes = bandEnvelopes(wobbling(2, 3), RATE);
    expect(wobbleOf(envelopes, 0, 0.7, [2]).reason).toBe('fewer than two cycles');
    expect(wobbleOf(envelopes, 0, 3, []).reason).toBe('no wobble moves it');
    // One that is asked for and does not come is found for what it is.
    expect(Math.abs(wobbleOf(envelopes, 0, 3, [5]).value! / 2 - 1)).toBeLessThan(0.03);
    expect(wobbleOf(bandEnvelopes(saw(55, 2), RATE), 0, 2, [2]).reason).toBe('nothing moves');
    expect(wobbleOf(envelopes, 0, 0.02, [200]).reason).toBe('too short to tell');
  });
});
