import { cleanSource } from '../../document/index.js';
import { fmCycle } from './fm-cycle.js';

const fm = (change: (source: ReturnType<typeof make>) => void) => {
  const source = make();
  change(source);
  return source;
};
const make = () => {
  const source = cleanSource('fm');
  if (source.kind !== 'fm') throw new Error('not FM');
  const plain = structuredClone(source);
  plain.matrix.fill(0);
  plain.scale = 1;
  plain.oscillators.forEach((each, o) => {
    Object.assign(each, { on: o < 2, wave: 'sine', ratio: 1, fineCents: 0, levelPct: o === 0 ? 100 : 0 });
  });
  return plain;
};

describe('the picture of an FM tone', () => {
  it('is a sine where nothing is steered', () => {
    fmCycle(fm(() => undefined)).forEach((y, i) => {
      expect(y).toBeCloseTo(Math.sin((4 * Math.PI * i) / 240), 6);
    });
  });

  it('is the carrier with its phase displaced by the index, in radians', () => {
    const index = 2;
    const found = fmCycle(
      fm((source) => {
        source.matrix[4] = index;
        source.oscillators[1].ratio = 2;
      }),
    );
    const wanted = Array.from({ length: 241 }, (_, i) => {
      const t = (4 * Math.PI * i) / 240;
      return Math.sin(t + index * Math.sin(2 * t));
    });
    const top = Math.max(...wanted.map(Math.abs));
    found.forEach((y, i) => {
      expect(y).toBeCloseTo(wanted[i] / top, 3);
    });
  });

  it('follows the ratios: a carrier at a half has one cycle where the note has two', () => {
    fmCycle(
      fm((source) => {
        source.oscillators[0].ratio = 0.5;
      }),
    ).forEach((y, i) => {
      expect(y).toBeCloseTo(Math.sin((2 * Math.PI * i) / 240), 6);
    });
  });

  it('stays within its bounds whatever steers whom', () => {
    const found = fmCycle(
      fm((source) => {
        source.matrix.fill(6);
        source.oscillators.forEach((each) => {
          each.on = true;
          each.wave = 'saw';
          each.levelPct = 60;
        });
      }),
    );
    expect(Math.max(...found.map(Math.abs))).toBeLessThanOrEqual(1);
    expect(found.every(Number.isFinite)).toBe(true);
  });
});
