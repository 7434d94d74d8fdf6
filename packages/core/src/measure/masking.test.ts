import { depthSpectrum } from './constant-q.js';
import { maskedShare } from './masking.js';
import { noise, sine } from '../testing/signals.js';

const levels = (signal: Float32Array) => depthSpectrum(signal, 48000, true);
const mix = (...signals: Float32Array[]) =>
  signals[0].map((_, i) => signals.reduce((sum, signal) => sum + signal[i], 0));
const tone = (hz: number, amplitude: number) => sine(hz, 2, { amplitude });

describe('masking', () => {
  // Two tones an octave and more apart, one of them under a part of the same frequency: its share of the
  // energy is known.
  it('counts the energy that lies more than 6 dB under the other part in its third of an octave', () => {
    const bass = levels(mix(tone(50, 0.4), tone(400, 0.2)));
    expect(maskedShare(bass, levels(tone(400, 0.8)))!).toBeCloseTo(0.2 ** 2 / (0.4 ** 2 + 0.2 ** 2), 1);
    expect(maskedShare(bass, levels(tone(400, 0.25)))!).toBeLessThan(0.02);
    expect(maskedShare(bass, levels(tone(3000, 0.8)))!).toBeLessThan(0.02);
    expect(maskedShare(bass, levels(mix(tone(50, 0.9), tone(400, 0.9))))!).toBeGreaterThan(0.9);
  });

  it('is nothing under silence, all under much louder noise, and null for a silent bass', () => {
    const bass = levels(tone(60, 0.01));
    expect(maskedShare(bass, levels(new Float32Array(96000)))!).toBeLessThan(1e-3);
    expect(maskedShare(bass, levels(noise(96000)))!).toBeGreaterThan(0.95);
    expect(maskedShare(levels(new Float32Array(96000)), bass)).toBeNull();
  });
});
