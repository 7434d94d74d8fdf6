import { readFileSync } from 'node:fs';
import { readWav, writeWav } from '../../formats/index.js';
import { amplitudeAt, db, noise, sine } from '../../testing/signals.js';
import { python, run, scratch } from '../../testing/tools.js';
import { decimate } from './decimate.js';
import { resample } from './resample.js';
import { realSpectrum, spectrum } from '../transforms/transform.js';
import { blackmanHarris, hann, kaiser, kaiserBeta } from '../transforms/windows.js';

const files = scratch();
afterAll(() => {
  files.remove();
});

describe('resampling', () => {
  it('gives the same rate back untouched', () => {
    const x = noise(100);
    expect(resample(x, 48000, 48000)).toBe(x);
  });

  it.each([
    [44100, 48000],
    [48000, 44100],
    [96000, 48000],
    [8000, 48000],
    [192000, 48000],
  ])('from %i to %i Hz keeps a sine, its phase and its level', (from, to) => {
    const y = resample(sine(1000, 0.5, { rate: from }), from, to);
    const wanted = sine(1000, 0.5, { rate: to });
    expect(y.length).toBe(wanted.length);
    let worst = 0;
    for (let i = Math.round(0.1 * to); i < 0.4 * to; i++) worst = Math.max(worst, Math.abs(y[i] - wanted[i]));
    expect(db(worst)).toBeLessThan(-85);
  });

  it('holds what would fold 90 dB down', () => {
    const y = resample(sine(30000, 0.2, { rate: 96000 }), 96000, 48000).slice(2400, 7200);
    expect(db(amplitudeAt(y, 18000) + 1e-12)).toBeLessThan(-90);
  });

  // Against sox's own resampler at its highest quality, on the same WAV: band-limited noise, so that both are
  // in their pass band.
  it('agrees with sox within −75 dB', () => {
    const source = new Float32Array(22050);
    const rough = noise(22050, 3);
    for (let i = 4; i < source.length; i++)
      source[i] =
        0.2 *
        (0.5 * rough[i] + rough[i - 1] + 1.5 * rough[i - 2] + rough[i - 3] + 0.5 * rough[i - 4]) *
        Math.sin((Math.PI * i) / source.length);
    // Low-passed well below the lower Nyquist frequency by a first pass through our own decimation pair.
    const smooth = resample(resample(source, 44100, 22050), 22050, 44100);
    const input = files.write('in.wav', writeWav([smooth], 44100, '32f'));
    run('sox', [input, files.path('out.wav'), 'rate', '-v', '48000']);
    const theirs = readWav(readFileSync(files.path('out.wav'))).channels[0];
    const ours = resample(smooth, 44100, 48000);
    let error = 0;
    let power = 0;
    for (let i = 1000; i < ours.length - 1000; i++) {
      error += (ours[i] - theirs[i]) ** 2;
      power += ours[i] ** 2;
    }
    expect(10 * Math.log10(error / power)).toBeLessThan(-75);
  });
});

describe('decimation', () => {
  it('keeps the low end and drops what would fold', () => {
    const low = decimate(sine(100, 0.5), 16);
    expect(db(amplitudeAt(low.slice(300, 900), 100, 3000))).toBeCloseTo(0, 2);
    const high = decimate(sine(2900, 0.5), 16).slice(300, 900);
    expect(db(Math.max(...high.map(Math.abs)))).toBeLessThan(-90);
  });

  it('runs a loop into itself', () => {
    const x = sine(100, 0.48);
    const y = decimate(x, 16, true);
    for (let i = 0; i < 20; i++) expect(y[i]).toBeCloseTo(x[16 * i], 4);
  });
});

// NumPy and SciPy as references for transforms and windows.
describe('transforms and windows', () => {
  it('agree with NumPy', () => {
    const x = noise(64);
    const wanted = python<{ re: number[]; im: number[] }>(
      'f = np.fft.fft(np.array(data)); print(json.dumps({"re": list(f.real), "im": list(f.imag)}))',
      Array.from(x),
    );
    const real = realSpectrum(x);
    const complex = spectrum(Float64Array.from({ length: 128 }, (_, i) => (i % 2 === 0 ? x[i / 2] : 0)));
    for (let k = 0; k <= 32; k++) {
      expect(real[2 * k]).toBeCloseTo(wanted.re[k], 9);
      expect(complex[2 * k + 1]).toBeCloseTo(wanted.im[k], 9);
    }
  });

  it('agree with SciPy', () => {
    const wanted = python<{ hann: number[]; bh: number[]; kaiser: number[]; beta: number }>(
      'print(json.dumps({"hann": list(signal.get_window("hann", 32)), "bh": list(signal.get_window("blackmanharris", 32)), "kaiser": list(signal.windows.kaiser(33, 7.5)), "beta": signal.kaiser_beta(80)}))',
    );
    hann(32).forEach((value, i) => {
      expect(value).toBeCloseTo(wanted.hann[i], 12);
    });
    blackmanHarris(32).forEach((value, i) => {
      expect(value).toBeCloseTo(wanted.bh[i], 12);
    });
    kaiser(33, 7.5).forEach((value, i) => {
      expect(value).toBeCloseTo(wanted.kaiser[i], 10);
    });
    expect(kaiserBeta(80)).toBeCloseTo(wanted.beta, 9);
  });
});
