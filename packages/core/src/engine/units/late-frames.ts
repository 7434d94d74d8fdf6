import { unitKindOf, type GritUnit } from '../../kinds/units/index.js';

/** Whole frames by which a chain comes late. */
export const chainLate = (units: readonly GritUnit[], sampleRateHz: number): number =>
  units.reduce(
    (sum, unit) => sum + (unit.on ? (unitKindOf(unit.kind).lateFrames?.(unit, sampleRateHz) ?? 0) : 0),
    0,
  );
