import { noise, saw, sine } from '../testing/signals.js';
import { findClicks } from './clicks.js';
import { DEPTH_BANDS_HZ, depthSpectrum } from './constant-q.js';
import { kickLengthS, kickTail, trackKick } from './kick-track.js';
import { crestDb, dcOfPeriods, dcWeighted, rms, samplePeak } from './levels.js';
import { measureMono } from './mono.js';
import { fundamental } from './pitch.js';

const RATE = 48000;
const cents = (found: number, wanted: number) => 1200 * Math.log2(found / wanted);

describe('levels', () => {
  // Sine: crest 3.01 dB; square: 0 dB (textbook).
  it('finds the crest of a sine and of a square', () => {
    expect(crestDb([sine(100, 1)])).toBeCloseTo(3.01, 2);
    expect(
      crestDb([
        sine(100, 1)
          .map(Math.sign)
          .map((x) => x || 1),
      ]),
    ).toBeCloseTo(0, 6);
  });

  it('finds DC over whole periods, whatever is left of the last', () => {
    const hz = 43.654;
    const x = sine(hz, 1).map((value) => value + 0.01);
    expect(dcOfPeriods(x, RATE / hz)).toBeCloseTo(0.01, 4);
    expect(dcWeighted(x)).toBeCloseTo(0.01, 4);
  });

  it('takes all channels together', () => {
    expect(samplePeak([Float32Array.of(0.2), Float32Array.of(-0.7)])).toBeCloseTo(0.7, 6);
    expect(rms([Float32Array.of(1, 1), Float32Array.of(0, 0)])).toBeCloseTo(Math.SQRT1_2, 6);
  });
});

describe('fundamental (YIN)', () => {
  it.each([27, 32.7, 43.654, 55, 82.41, 110, 200])('finds a sine of %f Hz within 1 cent', (hz) => {
    expect(Math.abs(cents(fundamental(sine(hz, 0.5), RATE).value!, hz))).toBeLessThan(1);
  });

  it.each([27.5, 43.654, 65.41, 130.81, 196])('finds a saw of %f Hz within 2 cents', (hz) => {
    expect(Math.abs(cents(fundamental(saw(hz, 0.5), RATE).value!, hz))).toBeLessThan(2);
  });

  it('is null, with the reason, for silence, noise and what is too short', () => {
    expect(fundamental(new Float32Array(RATE), RATE)).toMatchObject({
      value: null,
      reason: 'there is only silence',
    });
    expect(fundamental(noise(RATE / 2), RATE).value).toBeNull();
    expect(fundamental(sine(40, 0.06), RATE).value).toBeNull();
    expect(fundamental(new Float32Array(3), RATE).value).toBeNull();
  });
});

describe('mono loss', () => {
  const of = (left: Float32Array, right: Float32Array) =>
    measureMono({ channels: [left, right], sampleRateHz: RATE });
  const a = noise(2 * RATE, 1);
  const b = noise(2 * RATE, 2);

  it('is 0 for left alike right, and for a mono file', () => {
    expect(
      of(a, a.slice()).bands.every(
        ({ lossDb, correlation }) => lossDb.value === 0 && correlation.value === 1,
      ),
    ).toBe(true);
    expect(measureMono({ channels: [a], sampleRateHz: RATE }).high.value).toBe(0);
  });

  it('is −3.01 dB for unrelated sides, and for one side alone', () => {
    const { high, low, bands } = of(a, b);
    expect(Math.abs(bands[8].lossDb.value! + 3.01)).toBeLessThan(0.15);
    expect(Math.abs(bands[8].correlation.value!)).toBeLessThan(0.05);
    expect(high.value!).toBeLessThan(-2.8);
    expect(low.value!).toBeLessThan(-1.5);
    const alone = of(a, new Float32Array(a.length));
    expect(alone.bands[5].lossDb.value!).toBeCloseTo(-3.01, 2);
    expect(alone.bands[5].correlation.value).toBeNull();
  });

  it('is without bound for opposed sides', () => {
    const { bands } = of(
      a,
      a.map((x) => -x),
    );
    expect(bands[5].lossDb.value!).toBeLessThan(-60);
    expect(bands[5].correlation.value!).toBeCloseTo(-1, 6);
  });

  it('tells the bands apart: a wide top over a mono sub loses nothing below', () => {
    const low = sine(50, 2, { amplitude: 0.8 });
    const top = sine(1000, 2, { amplitude: 0.1 });
    const {
      low: lost,
      high,
      worstHighHz,
      bands,
    } = of(
      low.map((x, i) => x + top[i]),
      low.map((x, i) => x - top[i]),
    );
    expect(lost.value!).toBeCloseTo(0, 3);
    expect(high.value!).toBeLessThan(-60);
    expect(worstHighHz).toBe(1000);
    expect(bands[7].lossDb).toMatchObject({ value: null });
  });
});

describe('kick', () => {
  /** A sine whose pitch falls exponentially to a tail, with a decaying level. */
  function kick(
    tailHz: number,
    { startHz = 250, dropS = 0.02, decayS = 0.15, seconds = 0.6 } = {},
  ): Float32Array {
    let phase = 0;
    return Float32Array.from({ length: seconds * RATE }, (_, i) => {
      const t = i / RATE;
      phase += (tailHz + (startHz - tailHz) * Math.exp(-t / dropS)) / RATE;
      return Math.exp(-t / decayS) * Math.sin(2 * Math.PI * phase);
    });
  }

  it.each([36.7, 43.654, 48, 55, 61.7])('tail of %f Hz is found within 5 cents, and is steady', (hz) => {
    const tail = kickTail(kick(hz), RATE)!;
    expect(Math.abs(cents(tail.hz, hz))).toBeLessThan(5);
    expect(tail.steady).toBe(true);
  });

  it('says that a drop which never settles is not steady', () => {
    expect(kickTail(kick(45, { startHz: 160, dropS: 0.25, decayS: 0.3 }), RATE)!.steady).toBe(false);
  });

  it('follows the falling pitch', () => {
    const track = trackKick(kick(50, { dropS: 0.05 }), RATE)!;
    const at = (s: number) => track.hz[Math.round(s / (track.timeS[1] - track.timeS[0]))];
    for (const t of [0.05, 0.1, 0.15]) expect(at(t)).toBeCloseTo(50 + 200 * Math.exp(-t / 0.05), -0.7);
  });

  it('has a length from −40 dB to −40 dB', () => {
    // e^(−t/τ) is 40 dB down after τ·ln 100 = 4.605 τ.
    expect(kickLengthS(kick(50, { decayS: 0.08 }), RATE)!).toBeCloseTo(4.605 * 0.08, 1);
  });

  it('is null for silence and for what has no tail', () => {
    expect(kickTail(new Float32Array(RATE), RATE)).toBeNull();
    expect(kickTail(Float32Array.of(1, 0, 0), RATE)).toBeNull();
    expect(kickLengthS(new Float32Array(RATE), RATE)).toBeNull();
  });
});

describe('click finder', () => {
  const audio = (channel: Float32Array, loop = false) => ({ channels: [channel], sampleRateHz: RATE, loop });
  /** A sine cut at a crest, with a release in seconds. */
  const cut = (releaseS: number) =>
    sine(50, 1).map((x, i) => {
      const after = i / RATE - 0.505;
      return after < 0 ? x : releaseS === 0 ? 0 : x * Math.max(0, 1 - after / releaseS);
    });

  it('lists a sine cut off at its crest once, at its time', () => {
    const clicks = findClicks(audio(cut(0)));
    const inside = clicks.filter(({ timeS }) => timeS > 0.1);
    expect(inside).toHaveLength(1);
    expect(inside[0].timeS).toBeCloseTo(0.505, 2);
    expect(inside[0].prominenceDb).toBeGreaterThan(12);
  });

  it.each([0.005, 0.02])('lists none with a release of %f s', (release) => {
    expect(findClicks(audio(cut(release))).filter(({ timeS }) => timeS > 0.1)).toEqual([]);
  });

  it('leaves out hits that were asked for', () => {
    expect(findClicks(audio(cut(0)), [0.505, 0])).toEqual([]);
  });

  it('finds nothing in steady sounds, in silence, or where a loop is whole', () => {
    expect(findClicks(audio(saw(50, 1), true))).toEqual([]);
    expect(findClicks(audio(new Float32Array(RATE)))).toEqual([]);
    expect(findClicks(audio(sine(50, 1), true))).toEqual([]);
    expect(findClicks(audio(sine(50, 0.995), true)).length).toBeLessThanOrEqual(1);
  });

  it('finds the break where a loop does not meet itself', () => {
    expect(findClicks(audio(sine(50, 0.995, { phaseDeg: 90 }), true)).length).toBe(1);
  });
});

describe('depth spectrum', () => {
  it('has 24 bands to the octave from 20 Hz', () => {
    expect(DEPTH_BANDS_HZ[0]).toBe(20);
    expect(DEPTH_BANDS_HZ[24]).toBeCloseTo(40, 9);
  });

  it.each([43.654, 220, 1500, 6000])(
    'reads a sine of %f Hz at −3.0 dB in its band and far less an octave off',
    (hz) => {
      const levels = depthSpectrum(sine(hz, 2), RATE);
      const band = (of: number) => Math.round(24 * Math.log2(of / 20));
      expect(levels[band(hz)]).toBeCloseTo(-3.01, 0);
      expect(levels[band(hz * 2)]).toBeLessThan(-60);
      expect(levels[band(hz / 2 < 20 ? hz * 4 : hz / 2)]).toBeLessThan(-60);
    },
  );

  it('is flat in dB per band for equal sines', () => {
    const levels = [60, 300, 2400].map(
      (hz) => depthSpectrum(sine(hz, 2, { amplitude: 0.3 }), RATE)[Math.round(24 * Math.log2(hz / 20))],
    );
    for (const level of levels) expect(Math.abs(level - levels[0])).toBeLessThan(0.5);
  });
});
