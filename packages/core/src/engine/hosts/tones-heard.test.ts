import { cleanNote, cleanSource } from '../../document/index.js';
import { bare, cents, loopOf, RATE, worst } from '../../testing/bare.js';
import { fundamental } from '../../measure/index.js';
import { noteToHz } from '../../music/index.js';
import { amplitudeAt, db } from '../../testing/signals.js';

describe('tones', () => {
  // MIDI 1.0: F1 is 43.654 Hz.
  it('play the written pitch at the level that is set', () => {
    const { bass } = loopOf(bare());
    const middle = bass.left.subarray(20000, 60000);
    expect(Math.abs(cents(fundamental(middle, RATE).value!, noteToHz(29)))).toBeLessThan(1);
    expect(
      db(amplitudeAt(middle.subarray(0, Math.round((RATE / noteToHz(29)) * 30)), noteToHz(29))),
    ).toBeCloseTo(0, 1);
  });

  it('start at their start phase', () => {
    const at = (deg: number) =>
      loopOf(
        bare((s) => {
          s.layers[0].tones[0].startPhaseDeg = deg;
          s.layers[0].loudness.attackMs = 0.5;
        }),
      ).bass.left.subarray(0, 12000);
    const period = RATE / noteToHz(29);
    const a = at(0);
    const b = at(90);
    for (const i of [3000, 5000, 7000]) expect(b[i]).toBeCloseTo(a[Math.round(i + period / 4)], 1);
  });

  it.each([
    ['saw', (n: number) => 1 / n],
    ['square', (n: number) => (n % 2 === 1 ? 1 / n : 0)],
    ['triangle', (n: number) => (n % 2 === 1 ? 1 / (n * n) : 0)],
  ] as const)('a %s has the harmonics of its Fourier series within 0.1 dB', (shape, wanted) => {
    const { bass } = loopOf(
      bare((s) => {
        s.layers[0].tones[0].source = cleanSource('shape', { shape: shape });
        s.layers[0].levelDb = -9;
      }),
    );
    const hz = noteToHz(29);
    const whole = bass.left.subarray(10000, 10000 + Math.round((RATE / hz) * 40));
    const first = amplitudeAt(whole, hz);
    for (let n = 2; n <= 24; n++) {
      if (wanted(n) > 0)
        expect(Math.abs(db(amplitudeAt(whole, n * hz) / first) - db(wanted(n)))).toBeLessThan(0.1);
      else expect(db(amplitudeAt(whole, n * hz) / first)).toBeLessThan(-55);
    }
  });

  // Energy off the harmonics of a note whose period is whole in frames, up to 20 kHz.
  it.each([24, 36, 48, 60])('a saw on note %i folds back less than −70 dB', (note) => {
    const hz = RATE / Math.round(RATE / noteToHz(note));
    const sound = bare((s) => {
      s.layers[0].tones[0].source = cleanSource('shape', { shape: 'saw' });
      s.layers[0].levelDb = -12;
      s.layers[0].tones[0].cents = Math.max(-100, Math.min(100, cents(hz, noteToHz(note))));
      s.line.notes = [cleanNote({ tick: 0, ticks: 1900, pitch: note })];
    });
    const period = Math.round(RATE / hz);
    const periods = Math.floor(32768 / period);
    const frame = loopOf(sound).bass.left.subarray(20000, 20000 + periods * period);
    let whole = 0;
    let off = 0;
    // Bins of a frame of whole periods: harmonics fall on every `periods`-th bin.
    for (let k = 1; (k * RATE) / frame.length < 20000; k += 7) {
      const amplitude = amplitudeAt(frame, (k * RATE) / frame.length);
      if (k % periods !== 0) off += 7 * amplitude * amplitude;
    }
    for (let n = 1; n * hz < 20000; n++) whole += amplitudeAt(frame, n * hz) ** 2;
    expect(10 * Math.log10(off / whole)).toBeLessThan(-70);
  });

  it('keep the sum of both sides when copies are spread', () => {
    const spread = (pct: number) =>
      loopOf(
        bare((s) => {
          Object.assign(s.layers[0].tones[0], { copies: 5, spreadPct: pct, source: cleanSource('shape') });
          s.layers[0].levelDb = -12;
        }),
      ).bass;
    const wide = spread(80);
    const narrow = spread(0);
    expect(worst(wide.left, wide.right)).toBeGreaterThan(0.02);
    expect(
      db(
        worst(
          wide.left.map((x, i) => 0.5 * (x + wide.right[i])),
          narrow.left,
        ),
      ),
    ).toBeLessThan(-90);
  });

  it('put a pulse together without DC', () => {
    const { bass } = loopOf(
      bare((s) => {
        s.layers[0].tones[0].source = cleanSource('shape', { shape: 'pulse', widthPct: 20 });
        s.layers[0].levelDb = -9;
      }),
    );
    const whole = bass.left.subarray(20000, 20000 + Math.round((RATE / noteToHz(29)) * 20));
    expect(db(whole.reduce((sum, x) => sum + x, 0) / whole.length)).toBeLessThan(-60);
  });
});
