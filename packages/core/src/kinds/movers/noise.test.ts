import { cleanMover, type MoverOf } from '../../document/index.js';
import { moving } from '../../testing/moving.js';

describe('noise', () => {
  const noise = (set: Partial<MoverOf<'noise'>> = {}) => cleanMover('noise', set);

  it('draws as many values in a second as it is told to, stepped or gone to smoothly', () => {
    const stepped = moving([noise({ smooth: false, rateHz: 50 })]).run(2);
    expect(stepped.filter((value, i) => i > 0 && value !== stepped[i - 1]).length).toBeGreaterThan(95);
    expect(stepped.filter((value, i) => i > 0 && value !== stepped[i - 1]).length).toBeLessThanOrEqual(100);
    const smooth = moving([noise({ rateHz: 50 })]).run(2);
    expect(Math.max(...smooth.slice(1).map((value, i) => Math.abs(value - smooth[i])))).toBeLessThan(0.04);
    for (const values of [stepped, smooth]) {
      expect(Math.min(...values)).toBeGreaterThanOrEqual(0);
      expect(Math.max(...values)).toBeLessThanOrEqual(1);
      expect(values.reduce((sum, value) => sum + value, 0) / values.length).toBeCloseTo(0.5, 1);
    }
  });

  // White noise is even over frequency, pink falls by 3.01 dB an octave: by definition.
  it.each([
    ['white', 0],
    ['pink', -3.01],
  ] as const)('%s at audio rate falls by %d dB an octave', (colour, slope) => {
    const it = moving([noise({ colour, smooth: false, rateHz: 20000 })], [], {
      sampleRateHz: 20000,
      frames: 1,
    });
    const values = it.run(6.6);
    const size = 4096;
    const power = (from: number, to: number) => {
      let sum = 0;
      for (let start = 0; start + size <= values.length; start += size)
        for (let bin = from; bin < to; bin += Math.ceil((to - from) / 24)) {
          let re = 0;
          let im = 0;
          for (let i = 0; i < size; i++) {
            const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size);
            re += w * (values[start + i] - 0.5) * Math.cos((2 * Math.PI * bin * i) / size);
            im += w * (values[start + i] - 0.5) * Math.sin((2 * Math.PI * bin * i) / size);
          }
          sum += re * re + im * im;
        }
      return sum;
    };
    const octaves = [32, 256].map((bin) => 10 * Math.log10(power(bin, bin + 24)));
    expect(Math.abs((octaves[1] - octaves[0]) / 3 - slope)).toBeLessThan(0.5);
  });

  it('is the same for a seed, and another for another', () => {
    const run = (seed: number) => moving([noise()], [], { seed }).run(0.5);
    expect(run(5)).toEqual(run(5));
    expect(run(6)).not.toEqual(run(5));
  });
});
