import { fromPosition, numbersOfUnits, type GritUnit } from '@abyssal/core';
import { keysOf, setAt } from '../state/path';

/**
 * A unit with its numbers where they stand: `standsAt` gives the place of a target on its scale, 0 to 1, or null where
 * it is not moved.
 */
export function unitStanding(unit: GritUnit, standsAt: (target: string) => number | null): GritUnit {
  const now = structuredClone(unit);
  const start = `units.${unit.id}.`;
  for (const { field, row } of numbersOfUnits([unit])) {
    const at = standsAt(field);
    if (at !== null) setAt(now, keysOf(field.slice(start.length)), fromPosition(row, at));
  }
  return now;
}
