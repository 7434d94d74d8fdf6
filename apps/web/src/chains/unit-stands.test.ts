import { cleanUnit } from '@abyssal/core';
import { unitStanding } from './unit-stands';

const at =
  (places: Readonly<Record<string, number>>) =>
  (target: string): number | null =>
    places[target] ?? null;

describe('a unit whose numbers are moved', () => {
  it('stands where its movers have it, and elsewhere as it is set', () => {
    const unit = cleanUnit('tube', { id: 'tube-1', driveDb: 6, biasPct: 10 });
    // Drive goes from −12 to 48 dB.
    const now = unitStanding(unit, at({ 'units.tube-1.driveDb': 0.5, 'units.tube-2.biasPct': 1 }));
    expect(now).toEqual({ ...unit, driveDb: 18 });
    expect(unit.driveDb).toBe(6);
  });

  it('is moved within its lists, and along scales that are not even', () => {
    const unit = cleanUnit('equaliser', { id: 'equaliser-3' });
    const now = unitStanding(unit, at({ 'units.equaliser-3.sections.2.hz': 0.5 }));
    // Half way from 20 Hz to 20 kHz in octaves.
    expect(now.kind === 'equaliser' && now.sections[2].hz).toBeCloseTo(Math.sqrt(20 * 20000), 6);
    expect(now.kind === 'equaliser' && now.sections[1]).toEqual(unit.sections[1]);
  });
});
