import { plain, signed, type LineLock } from '@abyssal/core';

/** Degrees and shares are whole numbers. */
export const whole = (value: number) => plain(value, 0);

/** What a line's worst note has after a change, in words. */
export function standing({ worstSumGainDb, keptApart, withoutPhase }: LineLock): string {
  if (worstSumGainDb === null) return keptApart > 0 ? 'kept apart' : 'no lock';
  return `worst note ${signed(worstSumGainDb)} dB${keptApart > 0 ? `, ${keptApart} kept apart` : ''}${withoutPhase > 0 ? `, ${withoutPhase} without a common phase` : ''}`;
}
