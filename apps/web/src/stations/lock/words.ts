import { plain, signed, type LineLock } from '@abyssal/core';

/** Degrees and shares are whole numbers. */
export const whole = (value: number) => plain(value, 0);

/** What a line's worst note has after a change, in words. */
export function standing({ worstSumGainDb, keptApart, oneWave, withoutPhase }: LineLock): string {
  if (worstSumGainDb === null) return oneWave > 0 ? 'one wave' : keptApart > 0 ? 'kept apart' : 'no lock';
  return `worst note ${signed(worstSumGainDb)} dB${keptApart > 0 ? `, ${keptApart} kept apart` : ''}${oneWave > 0 ? `, ${oneWave} one wave with the kick` : ''}${withoutPhase > 0 ? `, ${withoutPhase} without a common phase` : ''}`;
}
