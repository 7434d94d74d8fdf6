import fc from 'fast-check';
import { sheetGeometry } from './sheet-geometry';

const rows = fc.uniqueArray(fc.integer({ min: 12, max: 110 }), { minLength: 1, maxLength: 49 });

describe('the note sheet', () => {
  it('finds the note again that stands at a place', () => {
    fc.assert(
      fc.property(
        rows,
        fc.integer({ min: 1, max: 8 }),
        fc.double({ min: 300, max: 2000, noNaN: true }),
        fc.nat(),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (pitches, bars, width, which, along) => {
          const sheet = sheetGeometry(pitches, bars, width);
          const pitch = pitches[which % pitches.length];
          const tick = along * sheet.total;
          const found = sheet.placeOf(sheet.xOf(tick), sheet.yOf(pitch) + sheet.rowHeight / 2);
          expect(found.pitch).toBe(pitch);
          expect(found.tick).toBeCloseTo(tick, 6);
        },
      ),
    );
  });

  it('stands every row on the one before it, the deepest on the floor, none under 24 pixels', () => {
    const sheet = sheetGeometry([36, 38, 40, 41], 2, 800);
    expect(sheet.yOf(36) + sheet.rowHeight).toBeCloseTo(sheet.floor, 9);
    expect(sheet.yOf(38) + sheet.rowHeight).toBeCloseTo(sheet.yOf(36), 9);
    const many = sheetGeometry(
      Array.from({ length: 40 }, (_, i) => 20 + i),
      1,
      800,
    );
    expect(many.rowHeight).toBeGreaterThanOrEqual(24);
    expect(many.yOf(59)).toBeCloseTo(0, 9);
  });

  it('holds a place above or below the rows to the outermost, and lets time run on', () => {
    const sheet = sheetGeometry([36, 40], 1, 444);
    expect(sheet.placeOf(44, -500).pitch).toBe(40);
    expect(sheet.placeOf(44, 5000).pitch).toBe(36);
    expect(sheet.placeOf(444 + 100, 0).tick).toBeCloseTo(sheet.total * 1.25, 6);
    expect(sheet.placeOf(0, 0).tick).toBeLessThan(0);
  });
});
