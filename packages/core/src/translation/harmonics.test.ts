import { noise } from '../testing/signals.js';
import { harmonicsOf, loudestStretch } from './harmonics.js';

const RATE = 48000;
const LEVELS = [0.4, 0.25, 0.16, 0.1, 0.07, 0.05, 0.04, 0.03, 0.025, 0.02, 0.016, 0.012];

/** A tone of known harmonics whose pitch runs as `hzAt` says at each second. */
function tone(hzAt: (s: number) => number, seconds = 0.2, levels = LEVELS): Float32Array {
  let phase = 0.3;
  return Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => {
    phase += (2 * Math.PI * hzAt(i / RATE)) / RATE;
    return levels.reduce((sum, level, k) => sum + level * Math.sin((k + 1) * phase + 0.7 * k), 0);
  });
}
/** Most that a found harmonic is off, dB. */
function worst(signal: Float32Array, writtenHz: number, levels = LEVELS): number {
  const { middle } = harmonicsOf(signal, signal, RATE, writtenHz).harmonics!;
  return Math.max(...levels.map((level, k) => Math.abs(20 * Math.log10(middle[k] / level))));
}

describe('harmonics of a note', () => {
  it.each([30, 41.2, 55, 130.8])('of %d Hz stand as they were made, and nothing stands above them', (hz) => {
    const signal = tone(() => hz);
    expect(worst(signal, hz)).toBeLessThan(0.1);
    const { middle } = harmonicsOf(signal, signal, RATE, hz).harmonics!;
    for (let k = LEVELS.length; k < 24; k++) expect(20 * Math.log10(middle[k] / 0.4)).toBeLessThan(-75);
  });

  it('are found of a note of two and a half cycles, beside a constant', () => {
    const signal = tone(() => 50, 0.05, LEVELS.slice(0, 6)).map((x) => x + 0.1);
    expect(worst(signal, 50, LEVELS.slice(0, 6))).toBeLessThan(0.5);
  });

  it.each([
    ['30 cents sharp', () => 55 * 2 ** (30 / 1200)],
    ['that glides by three semitones', (s: number) => 55 * 2 ** (((s / 0.2) * 3 - 1.5) / 12)],
    ['that falls by five semitones', (s: number) => 55 * 2 ** ((2.5 - (s / 0.2) * 5) / 12)],
    [
      'with a vibrato of 40 cents at 6 Hz',
      (s: number) => 55 * 2 ** ((40 / 1200) * Math.sin(2 * Math.PI * 6 * s)),
    ],
  ])('of a note %s are found within 0.5 dB', (_name, hzAt) => {
    expect(worst(tone(hzAt), 55)).toBeLessThan(0.5);
  });

  it('are null, with a reason, where the pitch runs too fast, in silence, and in next to nothing', () => {
    const fast = tone((s) => 55 * 2 ** ((s / 0.2 - 0.5) ** 3) * (1 + 12 * s));
    expect(harmonicsOf(fast, fast, RATE, 55)).toEqual({
      harmonics: null,
      reason: 'its pitch moves too fast',
    });
    const silence = new Float32Array(9600);
    expect(harmonicsOf(silence, silence, RATE, 55).reason).toBe('there is only silence');
    const short = tone(() => 55, 0.03);
    expect(harmonicsOf(short, short, RATE, 55).reason).toBe('shorter than two cycles');
  });

  it('take the found pitch within 50 cents of the written one, else the written one', () => {
    const near = tone(() => 55 * 2 ** (40 / 1200));
    expect(harmonicsOf(near, near, RATE, 55).harmonics!.f0Hz).toBeCloseTo(55 * 2 ** (40 / 1200), 1);
    const hiss = noise(9600).map((x) => 0.1 * x);
    const found = harmonicsOf(hiss, hiss, RATE, 55);
    if (found.harmonics)
      expect(Math.abs(1200 * Math.log2(found.harmonics.f0Hz / 55))).toBeLessThanOrEqual(50);
  });

  it('are those of each side by itself, and of their middle', () => {
    const left = tone(() => 60);
    const right = tone(
      () => 60,
      0.2,
      LEVELS.map((level, k) => (k === 1 ? -level : 0.5 * level)),
    );
    const { harmonics } = harmonicsOf(left, right, RATE, 60);
    expect(harmonics!.left[0]).toBeCloseTo(0.4, 3);
    expect(harmonics!.right[0]).toBeCloseTo(0.2, 3);
    expect(harmonics!.middle[0]).toBeCloseTo(0.3, 3);
    expect(harmonics!.middle[1]).toBeLessThan(1e-4);
  });
});

it('the loudest stretch of a note is where it is loudest, all of it where it is short', () => {
  const signal = new Float32Array(RATE).fill(0.1);
  signal.fill(0.5, 20000, 30000);
  const [from, to] = loudestStretch(signal, signal, 0, RATE, RATE);
  expect(to - from).toBe(9600);
  expect(from).toBeGreaterThanOrEqual(20000);
  expect(to).toBeLessThanOrEqual(30000);
  expect(loudestStretch(signal, signal, 100, 5000, RATE)).toEqual([100, 5000]);
});
