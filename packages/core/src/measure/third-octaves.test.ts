import { inverseSpectrum } from '../dsp/index.js';
import { audioFigures, thirdsLoudnessDb } from './audio-figures.js';
import { powerSpectrum } from './power-spectrum.js';
import { THIRD_OCTAVES_HZ, thirdsOf } from './third-octaves.js';
import { noise, RATE, saw, sine } from '../testing/signals.js';

/** Nominal centres of IEC 61260-1, table of third-octave bands from 25 Hz to 16 kHz (from memory). */
const NOMINAL_HZ = [
  25, 31.5, 40, 50, 63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500,
  3150, 4000, 5000, 6300, 8000, 10000, 12500, 16000,
];
const thirds = (signal: Float32Array) =>
  thirdsOf(powerSpectrum({ channels: [signal, signal], sampleRateHz: RATE, loop: true }));

describe('third-octave bands', () => {
  it('stand at the centres of IEC 61260-1, which are named by their nominal values', () => {
    expect(THIRD_OCTAVES_HZ).toHaveLength(NOMINAL_HZ.length);
    // A nominal value is within 1 % or so of the exact one; 1.6 and 3.15 kHz, and their tens, by a little more.
    THIRD_OCTAVES_HZ.forEach((hz, i) => {
      expect(Math.abs(hz / NOMINAL_HZ[i] - 1)).toBeLessThan(0.0165);
    });
  });

  it('of a sine hold it where it belongs: its level in one, nothing in those two away', () => {
    for (const band of [2, 8, 16, 24]) {
      // A whole number of cycles in 4 s, so that the loop has no edge.
      const levels = thirds(sine(Math.round(4 * THIRD_OCTAVES_HZ[band]) / 4, 4, { amplitude: 0.5 }));
      expect(levels[band]).toBeCloseTo(-9.03, 1);
      if (band > 2) expect(levels[band - 2]).toBeLessThan(-60);
      expect(levels[band + 2]).toBeLessThan(-60);
    }
  });

  it('of pink noise are all alike, of white noise rise by a decibel each', () => {
    const white = noise(12 * RATE);
    const rises = thirds(white);
    // White noise holds 10·log10(2^(1/3)) = 1.003 dB more in each band than in the one below.
    for (let i = 9; i < rises.length; i++)
      expect(Math.abs(rises[i] - rises[8] - 1.003 * (i - 8))).toBeLessThan(0.8);
    // Pink noise by its definition: power by 1/f, at phases of chance.
    const size = 1 << 17;
    const bins = new Float64Array(2 * size);
    const chance = noise(size);
    for (let k = 1; k < size / 2; k++) {
      bins[2 * k] = Math.cos(Math.PI * chance[k]) / Math.sqrt(k);
      bins[2 * k + 1] = Math.sin(Math.PI * chance[k]) / Math.sqrt(k);
    }
    const both = inverseSpectrum(bins);
    const flat = [...thirds(Float32Array.from({ length: size }, (_, i) => 1000 * both[2 * i]))];
    const mean = flat.reduce((sum, x) => sum + x, 0) / flat.length;
    for (const level of flat) expect(Math.abs(level - mean)).toBeLessThan(0.5);
  });

  it('tell by how much two are matched: a gain of one moves its loudness by as much', () => {
    const bass = saw(55, 4);
    const softer = bass.map((x) => 0.25 * x);
    expect(thirdsLoudnessDb(thirds(bass)) - thirdsLoudnessDb(thirds(softer))).toBeCloseTo(12.04, 2);
  });
});

it('figures of audio are those of its parts, and tell of silence why', () => {
  const channels = [saw(55, 4)];
  const found = audioFigures({ channels, sampleRateHz: RATE, loop: true });
  expect(found.lowMonoLossDb.value).toBe(0);
  expect(found.clicks.value).toBe(0);
  expect(found.glareDb.value).toBeLessThan(1);
  expect(found.crestDb.value).toBeGreaterThan(3);
  const silent = audioFigures({ channels: [new Float32Array(4 * RATE)], sampleRateHz: RATE });
  for (const id of ['integratedLufs', 'crestDb', 'subToBodyDb', 'glareDb'] as const)
    expect(silent[id].value).toBeNull();
});
