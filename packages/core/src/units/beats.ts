/**
 * Ticks in a quarter note, as in most Standard MIDI Files. Triplets (160, 80) and dots (720, 360) stay whole
 * numbers.
 */
export const TICKS_PER_BEAT = 480;

/** Beats in a bar: lines are in 4/4. */
export const BEATS_PER_BAR = 4;

/** Seconds that a number of ticks lasts at a tempo in beats per minute. */
export function ticksToSeconds(ticks: number, tempoBpm: number): number {
  return (ticks * 60) / (TICKS_PER_BEAT * tempoBpm);
}

/** Ticks in a loop of whole bars. */
export function loopTicks(bars: number): number {
  return bars * BEATS_PER_BAR * TICKS_PER_BEAT;
}

/**
 * How long after `from` it is until `to` comes round in a loop, all in ticks: from 0 up to the loop's length,
 * without it.
 */
export function ticksRound(from: number, to: number, loop: number): number {
  return (((to - from) % loop) + loop) % loop;
}

/** Frames in a loop, rounded to whole frames: every host loops at this length. */
export function loopFrames(bars: number, tempoBpm: number, sampleRateHz: number): number {
  return Math.round(ticksToSeconds(loopTicks(bars), tempoBpm) * sampleRateHz);
}

const KINDS = [
  { suffix: '', factor: 1 },
  { suffix: 'T', factor: 2 / 3 },
  { suffix: '.', factor: 3 / 2 },
] as const;

/** Note values in beats, from 1/64 triplets up to eight bars, with triplets and dots, the shortest first. */
export const DIVISIONS: readonly number[] = Array.from({ length: 10 }, (_, i) => 2 ** (i - 4))
  .flatMap((beats) => KINDS.map(({ factor }) => beats * factor))
  .filter((beats) => beats <= 32)
  .sort((a, b) => a - b);

/** The note value nearest to a number of beats, by ratio. */
export function nearestDivision(beats: number): number {
  let i = 0;
  // Halfway by ratio: the geometric mean of two neighbours.
  while (i < DIVISIONS.length - 1 && beats * beats > DIVISIONS[i] * DIVISIONS[i + 1]) i++;
  return DIVISIONS[i];
}

/** Note values by name, in beats. */
const NAMED: Readonly<Record<string, number>> = {
  whole: 4,
  half: 2,
  quarter: 1,
  eighth: 0.5,
  sixteenth: 0.25,
  'thirty-second': 0.125,
  'sixty-fourth': 0.0625,
};
const MARKS: Readonly<Record<string, number>> = {
  t: 2 / 3,
  triplet: 2 / 3,
  d: 3 / 2,
  '.': 3 / 2,
  dotted: 3 / 2,
};

/**
 * Beats (quarter notes) of a note division: `1/8` is half a beat, `1/8T` and `1/8 triplet` a third, `1/8.`
 * and `dotted eighth` three quarters, `2/1` eight, `2 bars` eight.
 * Returns null when the text is not a division.
 */
export function parseDivision(text: string): number | null {
  const match =
    /^(?:(dotted|triplet)\s+)?(?:(\d{1,3})\s*\/\s*(\d{1,3})|([a-z-]+?)|(\d+(?:\.\d+)?)\s*bars?)(?:\s+note)?\s*(t|d|\.|triplet|dotted)?$/i.exec(
      text.trim().toLowerCase(),
    );
  if (!match) return null;
  const [, before, numerator, denominator, name, bars, after] = match;
  const whole =
    bars !== undefined
      ? BEATS_PER_BAR * Number(bars)
      : name !== undefined
        ? NAMED[name]
        : (4 * Number(numerator)) / Number(denominator);
  if (whole === undefined || !Number.isFinite(whole) || (before !== undefined && after !== undefined))
    return null;
  return whole * (MARKS[before ?? after ?? ''] ?? 1);
}

/** The division that a number of beats is, or null where it is none: 1/3 beat is `1/8T`. */
export function formatDivision(beats: number): string | null {
  for (const { suffix, factor } of KINDS) {
    const whole = beats / factor / 4;
    for (const [numerator, denominator] of [
      [whole, 1],
      [1, 1 / whole],
    ] as const) {
      const a = Math.round(numerator);
      const b = Math.round(denominator);
      if (a < 1 || b < 1 || b > 64 || a > 16) continue;
      const powerOfTwo = (b & (b - 1)) === 0;
      if (powerOfTwo && Math.abs(a / b - whole) < 1e-6 * whole) return `${a}/${b}${suffix}`;
    }
  }
  return null;
}

/**
 * The beat in which a place of a line lies, as bar and beat: `2.3`. `tick` may be a fraction, as a swung
 * place is.
 */
export function barBeat(tick: number): string {
  const beat = Math.floor(tick / TICKS_PER_BEAT);
  return `${Math.floor(beat / BEATS_PER_BAR) + 1}.${(beat % BEATS_PER_BAR) + 1}`;
}
