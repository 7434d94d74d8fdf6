import { THIRD_OCTAVES_HZ } from '@abyssal/core';
import { against, differences } from './against';

const flat = THIRD_OCTAVES_HZ.map(() => -30);

describe('two spectra against each other', () => {
  it('are as loud as each other: a gain of one is no difference', () => {
    const found = against(
      flat,
      flat.map((db) => db - 11),
      'thirds',
    );
    expect(found.matchedDb).toBeCloseTo(11, 6);
    for (const difference of differences(found)) expect(difference).toBeCloseTo(0, 6);
  });

  it('differ where one has more, by octaves as by thirds', () => {
    const other = flat.map((db, i) => (THIRD_OCTAVES_HZ[i] < 90 ? db + 6 : db));
    const thirds = differences(against(flat, other, 'thirds'));
    expect(thirds[3]! - thirds[20]!).toBeCloseTo(6, 6);
    const octaves = against(flat, other, 'octaves');
    expect(octaves.hz.map((hz) => Math.round(hz))).toEqual([31, 63, 125, 250, 500, 1000, 2000, 4000, 8000]);
    expect(octaves.a[0]).toBeCloseTo(-30 + 10 * Math.log10(3), 6);
    const apart = differences(octaves);
    expect(apart[0]! - apart[6]!).toBeCloseTo(6, 6);
  });

  it('tell nothing of what neither of them has, and no more than is heard', () => {
    const deep = flat.map((db, i) => (i < 10 ? db : -200));
    const found = differences(against(deep, flat, 'thirds'));
    expect(found[25]!).toBeLessThan(75);
    expect(differences(against(deep, deep, 'thirds'))[25]).toBeNull();
  });
});
