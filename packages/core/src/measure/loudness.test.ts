import { readFileSync } from 'node:fs';
import { decimate } from '../dsp/index.js';
import { readWav, writeWav } from '../formats/index.js';
import { noise, saw, sine } from '../testing/signals.js';
import { python, run, scratch } from '../testing/tools.js';
import { kWeighting, measureLoudness } from './loudness.js';
import { truePeakDb } from './true-peak.js';

const files = scratch();
afterAll(() => {
  files.remove();
});
const RATE = 48000;
const stereo = (channel: Float32Array) => ({ channels: [channel, channel], sampleRateHz: RATE });
const tone = (dbfs: number, seconds: number) => sine(1000, seconds, { amplitude: 10 ** (dbfs / 20) });
function join(...parts: Float32Array[]): Float32Array {
  const out = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

describe('K-weighting', () => {
  // Values of BS.1770's own filters at low frequencies, to two digits.
  it.each([
    [40, -5.57],
    [50, -3.93],
    [60, -2.9],
    [80, -1.73],
    [100, -1.13],
  ])('at %i Hz is %f dB', (hz, wanted) => {
    const level = (rate: number) => {
      const w = (2 * Math.PI * hz) / rate;
      return kWeighting(rate).reduce((sum, { b, a }) => {
        const at = (c0: number, c1: number, c2: number) =>
          Math.hypot(c0 + c1 * Math.cos(w) + c2 * Math.cos(2 * w), c1 * Math.sin(w) + c2 * Math.sin(2 * w));
        return sum + 20 * Math.log10(at(...b) / at(1, ...a));
      }, 0);
    };
    expect(level(RATE)).toBeCloseTo(wanted, 1);
    for (const rate of [44100, 96000]) expect(level(rate)).toBeCloseTo(level(RATE), 1);
  });

  it('from the prototype meets the published coefficients at 48 kHz', () => {
    const [shelf, high] = kWeighting(48000.0001);
    const [wantedShelf, wantedHigh] = kWeighting(48000);
    shelf.b.forEach((value, i) => {
      expect(value).toBeCloseTo(wantedShelf.b[i], 5);
    });
    high.a.forEach((value, i) => {
      expect(value).toBeCloseTo(wantedHigh.a[i], 6);
    });
  });
});

describe('loudness', () => {
  // EBU Tech 3341, table 1: cases 1 to 5, each ±0.1 LU.
  it.each([
    ['1: −23 dBFS', () => tone(-23, 20), -23],
    ['2: −33 dBFS', () => tone(-33, 20), -33],
    ['3: −36, −23, −36', () => join(tone(-36, 10), tone(-23, 60), tone(-36, 10)), -23],
    [
      '4: −72, −36, −23, −36, −72',
      () => join(tone(-72, 10), tone(-36, 10), tone(-23, 60), tone(-36, 10), tone(-72, 10)),
      -23,
    ],
    ['5: −26, −20, −26', () => join(tone(-26, 20), tone(-20, 20.1), tone(-26, 20)), -23],
  ])('meets EBU Tech 3341 case %s', (_name, make, wanted) => {
    expect(Math.abs(measureLoudness(stereo(make())).integrated.value! - wanted)).toBeLessThanOrEqual(0.1);
  });

  it('gives momentary and short-term maxima of a steady tone', () => {
    const { momentaryMax, shortTermMax } = measureLoudness(stereo(tone(-23, 20)));
    expect(momentaryMax.value).toBeCloseTo(-23, 1);
    expect(shortTermMax.value).toBeCloseTo(-23, 1);
  });

  // EBU Tech 3342, table 1: case 1, 10 LU ±1; case 2, 5 LU ±1.
  it.each([
    [-20, -30, 10],
    [-20, -15, 5],
  ])('meets EBU Tech 3342 for %f and %f dBFS', (a, b, wanted) => {
    expect(
      Math.abs(measureLoudness(stereo(join(tone(a, 20), tone(b, 20)))).range.value! - wanted),
    ).toBeLessThanOrEqual(1);
  });

  it('counts a mono file as one channel', () => {
    const both = measureLoudness(stereo(tone(-23, 5))).integrated.value!;
    expect(measureLoudness({ channels: [tone(-23, 5)], sampleRateHz: RATE }).integrated.value!).toBeCloseTo(
      both - 3.01,
      2,
    );
  });

  it('gives no figure where there is none, with the reason', () => {
    expect(measureLoudness(stereo(new Float32Array(RATE))).integrated).toEqual({
      value: null,
      reason: 'nothing is louder than −70 LUFS',
    });
    expect(measureLoudness(stereo(tone(-20, 0.3))).integrated).toEqual({
      value: null,
      reason: 'shorter than 0.4 s',
    });
    expect(measureLoudness(stereo(tone(-20, 2))).range.value).toBeNull();
  });

  it('measures a loop as a loop: wherever it begins', () => {
    const x = join(tone(-10, 0.5), tone(-30, 1.3));
    // By whole hops of 100 ms, so that the same windows are measured.
    const turned = join(x.slice(28800), x.slice(0, 28800));
    const of = (channel: Float32Array) =>
      measureLoudness({ ...stereo(channel), loop: true }).integrated.value!;
    expect(of(turned)).toBeCloseTo(of(x), 1);
  });

  // ffmpeg's own meter (ebur128) on the same WAVs; held below 8 kHz, since the peak between samples of what
  // lies near half the rate
  // depends on each meter's own filter.
  it.each([
    ['a low saw', () => saw(55, 6, { belowHz: 8000 })],
    [
      'noise in bursts',
      () => decimate(noise(24 * RATE, 5), 4).map((x, i) => x * (i % 48000 < 20000 ? 0.5 : 0.02)),
    ],
    ['a sub', () => sine(45, 6, { amplitude: 0.7 })],
  ])('agrees with ffmpeg on %s', (_name, make) => {
    const channel = Float32Array.from(make());
    const file = files.write('loud.wav', writeWav([channel, channel], RATE, '32f'));
    const summary = run('ffmpeg', [
      '-nostats',
      '-i',
      file,
      '-filter_complex',
      'ebur128=peak=true',
      '-f',
      'null',
      '-',
    ])
      .split('Summary:')
      .pop()!;
    const theirs = (name: string) => Number(new RegExp(`${name}:\\s+(-?[\\d.]+)`).exec(summary)![1]);
    const audio = { channels: readWav(readFileSync(file)).channels, sampleRateHz: RATE };
    expect(Math.abs(measureLoudness(audio).integrated.value! - theirs('I'))).toBeLessThanOrEqual(0.1);
    expect(Math.abs(truePeakDb(audio).value! - theirs('Peak'))).toBeLessThanOrEqual(0.2);
  });
});

describe('true peak', () => {
  // EBU Tech 3341, cases 15 to 18: sines of amplitude 0.5 at a quarter, a sixth and an eighth of the rate;
  // −6.0 dBTP +0.2/−0.4.
  it.each([
    [4, 0],
    [4, 45],
    [6, 60],
    [8, 67.5],
  ])('of a faded sine at 1/%i of the rate and %f° is −6.0 dBTP', (part, phaseDeg) => {
    const value = truePeakDb({
      channels: [sine(RATE / part, 0.5, { amplitude: 0.5, phaseDeg, fadeS: 0.01 })],
      sampleRateHz: RATE,
    }).value!;
    expect(value).toBeLessThanOrEqual(-6.02 + 0.2);
    expect(value).toBeGreaterThanOrEqual(-6.02 - 0.4);
  });

  it('stands 3.01 dB above the samples of a sine at a quarter of the rate and 45°', () => {
    const channel = sine(RATE / 4, 0.5, { phaseDeg: 45, fadeS: 0.01 });
    expect(20 * Math.log10(channel.reduce((m, x) => Math.max(m, Math.abs(x)), 0))).toBeCloseTo(-3.01, 2);
    expect(truePeakDb({ channels: [channel], sampleRateHz: RATE }).value!).toBeCloseTo(0, 1);
  });

  // Against SciPy: the greatest value of the signal resampled 16 times by FFT.
  it('meets a fine resampling of noise', () => {
    const rough = noise(4098, 11);
    const x = Float32Array.from(
      { length: 4096 },
      (_, i) => (0.25 * rough[i] + 0.5 * rough[i + 1] + 0.25 * rough[i + 2]) * Math.sin((Math.PI * i) / 4096),
    );
    const wanted = python<number>(
      'print(json.dumps(float(np.max(np.abs(signal.resample(np.array(data), len(data) * 4))))))',
      Array.from(x),
    );
    expect(truePeakDb({ channels: [x], sampleRateHz: RATE }).value!).toBeCloseTo(20 * Math.log10(wanted), 1);
  });

  it("is unknown for silence, and runs over a loop's end", () => {
    expect(truePeakDb({ channels: [new Float32Array(100)], sampleRateHz: RATE }).value).toBeNull();
    const whole = sine(RATE / 4, 0.1, { phaseDeg: 45 });
    expect(truePeakDb({ channels: [whole], sampleRateHz: RATE, loop: true }).value!).toBeCloseTo(0, 1);
  });
});
