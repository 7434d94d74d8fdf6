import type { LineLock } from '@abyssal/core';

/** A number with its sign, and without one where it rounds to nothing. */
export const signed = (value: number, digits = 1) => {
  const size = Math.abs(value).toFixed(digits);
  return Number(size) === 0 ? size : `${value < 0 ? '−' : '+'}${size}`;
};
export const plain = (value: number, digits = 0) => signed(value, digits).replace('+', '');

/** What a line's worst note has after a change, in words. */
export function standing({ worstSumGainDb, keptApart, withoutPhase }: LineLock): string {
  if (worstSumGainDb === null) return keptApart > 0 ? 'kept apart' : 'no lock';
  return `worst note ${signed(worstSumGainDb)} dB${keptApart > 0 ? `, ${keptApart} kept apart` : ''}${withoutPhase > 0 ? `, ${withoutPhase} without a common phase` : ''}`;
}
