import { DIVISIONS } from '@abyssal/core';

/** Rates that a note goes through while it is dragged, slow to fast: held still first. */
const RATES = [0, ...DIVISIONS.filter((beats) => beats >= 1 / 12 && beats <= 4).reverse()];
/** Where one begins that has no rate of its own: a quarter. */
const FIRST = 1;

/** The rate so many steps faster than one; the wobble's own (null) begins at a quarter. */
export function rateFrom(wobbleBeats: number | null, steps: number): number | null {
  if (steps === 0) return wobbleBeats;
  const from = wobbleBeats ?? FIRST;
  const at = RATES.reduce(
    (best, beats, i) => (Math.abs(beats - from) < Math.abs(RATES[best] - from) ? i : best),
    0,
  );
  return RATES[Math.min(RATES.length - 1, Math.max(0, at + steps))];
}
