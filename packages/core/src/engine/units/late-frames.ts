import type { WithUnits } from '../../document/index.js';
import { unitKindOf, type GritUnit } from '../../kinds/units/index.js';

/** Whole frames by which a chain comes late. */
export const chainLate = (units: readonly GritUnit[], sampleRateHz: number): number =>
  units.reduce(
    (sum, unit) => sum + (unit.on ? (unitKindOf(unit.kind).lateFrames?.(unit, sampleRateHz) ?? 0) : 0),
    0,
  );

/** Whole frames by which bass and kick come late behind grit: the slowest layer's chain, and grit's own delay. */
export function frontLate({ layers, grit }: WithUnits, sampleRateHz: number): number {
  const { cleanPath, bands, after } = grit;
  const layersLate = Math.max(...layers.map(({ chain }) => chainLate(chain, sampleRateHz)));
  const clean = cleanPath.on && !cleanPath.alone ? chainLate(cleanPath.units, sampleRateHz) : 0;
  const slowest = Math.max(clean, ...bands.map(({ units }) => chainLate(units, sampleRateHz)));
  return layersLate + slowest + chainLate(after, sampleRateHz);
}
