import { BEATS_PER_BAR, plain, TICKS_PER_BEAT } from '@abyssal/core';

/** Degrees and shares are whole numbers. */
export const whole = (value: number) => plain(value, 0);

/** A place of a line as bar, beat and sixteenth. */
export function placeWords(tick: number): string {
  const at = Math.round(tick);
  const sixteenth = TICKS_PER_BEAT / 4;
  return `${Math.floor(at / (TICKS_PER_BEAT * BEATS_PER_BAR)) + 1}.${(Math.floor(at / TICKS_PER_BEAT) % BEATS_PER_BAR) + 1}${at % TICKS_PER_BEAT === 0 ? '' : `.${Math.floor((at % TICKS_PER_BEAT) / sixteenth) + 1}`}`;
}
