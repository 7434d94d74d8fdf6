import { cleanBand, cleanSound, cleanUnit, numbersOfUnits, type Grit } from '../../document/index.js';
import { BAND_LEVEL, BAND_NUMBERS, BAND_WET, BAND_WIDTH } from './bands-stage.js';
import { GritLayout, gritValues } from './grit-layout.js';

const AT = 6;
const grit: Grit = {
  cleanPath: {
    ...cleanSound().grit.cleanPath,
    frequencyHz: 77,
    levelDb: -2,
    units: [cleanUnit('tilt', { id: 'c' })],
  },
  bands: [
    cleanBand({
      id: 'low',
      levelDb: -3,
      widthPct: 40,
      wetPct: 50,
      units: [cleanUnit('tube', { id: 't', driveDb: 13 })],
    }),
    cleanBand({ id: 'mid', fromHz: 321, levelDb: -4 }),
    cleanBand({
      id: 'top',
      fromHz: 2345,
      units: [cleanUnit('equaliser', { id: 'e' }), cleanUnit('pan', { id: 'p' })],
    }),
  ],
  after: [cleanUnit('limiter', { id: 'l', ceilingDb: -7 })],
};

describe('where the numbers of grit stand', () => {
  const layout = new GritLayout(grit, AT);
  const values = gritValues(grit);
  const valueAt = (place: number) => values[place - AT];

  it('has a field and a row for every value, each once', () => {
    expect(layout.fields).toHaveLength(values.length);
    expect(layout.rows).toHaveLength(values.length);
    expect(new Set(layout.fields).size).toBe(values.length);
    layout.rows.forEach((row, r) => {
      expect([layout.fields[r], values[r] >= row.min && values[r] <= row.max]).toEqual([
        layout.fields[r],
        true,
      ]);
    });
  });

  it('says where the clean path, each band and each chain begin', () => {
    expect(valueAt(layout.crossover)).toBe(77);
    expect(valueAt(layout.cleanLevel)).toBe(-2);
    expect(layout.froms.slice(1).map(valueAt)).toEqual([321, 2345]);
    const [low, mid] = layout.bands;
    expect([BAND_LEVEL, BAND_WIDTH, BAND_WET].map((number) => valueAt(low + number))).toEqual([-3, 40, 50]);
    expect(valueAt(mid + BAND_LEVEL)).toBe(-4);
    const starts: readonly (readonly [number, string])[] = [
      [layout.clean, 'units.c.'],
      [low + BAND_NUMBERS, 'units.t.'],
      [layout.bands[2] + BAND_NUMBERS, 'units.e.'],
      [layout.after, 'units.l.'],
    ];
    for (const [place, start] of starts) expect(layout.fields[place - AT].startsWith(start)).toBe(true);
  });

  it('has the units of a chain one behind the other, in the order that their runners read', () => {
    const start = layout.bands[2] + BAND_NUMBERS - AT;
    const wanted = numbersOfUnits(grit.bands[2].units);
    expect(layout.fields.slice(start, start + wanted.length)).toEqual(wanted.map(({ field }) => field));
    expect(values.slice(start, start + wanted.length)).toEqual(wanted.map(({ value }) => value));
  });
});
