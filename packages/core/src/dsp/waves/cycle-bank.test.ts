import { amplitudeAt, db } from '../../testing/signals.js';
import { CycleBank, LEVELS, sineSpectrum, tableLimitHz, waveBank } from './cycle-bank.js';
import { SERIES, seriesOf } from './wave-series.js';

const RATE = 48000;
const LIMIT = tableLimitHz(RATE);

describe('single cycles', () => {
  // Fourier series: saw harmonics 1/n, square odd only at 1/n, triangle odd only at 1/n².
  it.each([
    ['saw', [1, 1 / 2, 1 / 3, 1 / 4, 1 / 5, 1 / 40]],
    ['square', [1, 0, 1 / 3, 0, 1 / 5, 0]],
    ['triangle', [1, 0, 1 / 9, 0, 1 / 25, 0]],
  ] as const)('a %s has its Fourier series as linear interpolation reads it', (name, wanted) => {
    const bank = waveBank(name, LIMIT);
    const cycle = bank.table(0, bank.levelFor(43.654)).slice(0, -1);
    const heard = (n: number) =>
      amplitudeAt(cycle, n, cycle.length) *
      (Math.sin((Math.PI * n) / cycle.length) / ((Math.PI * n) / cycle.length)) ** 2;
    [1, 2, 3, 4, 5, 40].forEach((n, i) => {
      expect(heard(n) / heard(1)).toBeCloseTo(wanted[i], 5);
    });
  });

  it('starts every wave with its fundamental at phase 0, and no DC', () => {
    for (const name of Object.keys(SERIES) as (keyof typeof SERIES)[]) {
      const bank = waveBank(name, LIMIT);
      for (let level = 0; level < LEVELS; level++) {
        const table = bank.table(0, level);
        expect(
          Math.abs(table.slice(0, -1).reduce((sum, value) => sum + value, 0)) / table.length,
        ).toBeLessThan(1e-6);
        expect(table[table.length - 1]).toBe(table[0]);
      }
    }
  });

  it('holds nothing that would fold below 20 kHz at the top of each table', () => {
    const bank = new CycleBank([sineSpectrum(SERIES.saw, 2048)], { limitHz: LIMIT });
    for (let i = 0; i < LEVELS - 1; i++) {
      const top = bank.lowest(i + 1);
      const cycle = bank.table(0, i).slice(0, -1);
      const folds = Math.ceil((RATE - 20000) / top);
      for (let n = folds; n <= folds + 3 && n < cycle.length / 2; n++)
        if (n * top > RATE - 20000)
          expect(db(amplitudeAt(cycle, n, cycle.length) + 1e-12)).toBeLessThan(-100);
    }
  });

  it('finds the table of a pitch', () => {
    const tables = waveBank('saw', LIMIT);
    for (const hz of [16.1, 43.65, 440, 5000]) {
      const i = tables.levelFor(hz);
      expect(hz).toBeGreaterThanOrEqual(tables.lowest(i));
      expect(hz).toBeLessThan(tables.lowest(i + 1));
    }
    expect(tables.levelFor(1)).toBe(0);
    expect(tables.lowest(99)).toBe(Infinity);
  });

  // A pulse of width w: |sin(πnw)|·4/(πn) (its Fourier series).
  it('gives a pulse as the difference of two saws', () => {
    for (const n of [1, 2, 3, 7]) {
      const { sine, cosine } = seriesOf('pulse', 0.3)(n);
      expect(Math.hypot(sine, cosine)).toBeCloseTo(
        (4 / (Math.PI * n)) * Math.abs(Math.sin(Math.PI * n * 0.3)),
        10,
      );
    }
  });
});
