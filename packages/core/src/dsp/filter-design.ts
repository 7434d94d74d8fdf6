/** 1/Q of a second-order section without a peak. */
export const FLAT = Math.SQRT2;
/** 1/Q at which a section begins to saturate, so that it stays bounded as it starts to sound by itself. */
const SATURATES_BELOW = 0.05;
/** What 1/Q falls to at full resonance: below 0, so that the oscillation begins. */
const OSCILLATES_AT = -0.02;
/** Feedback of the ladder at full resonance; it oscillates at 4. */
const LADDER_FULL = 4.08;
/** Greatest gain of a widened peak in dB. */
const MOST_PEAK_DB = 36;

/** 1/Q of a section for a resonance from −1 (a dip) over 0 (flat) to 1 (it sounds by itself): √2·(1 − r)², a little less near 1. */
export function damping(resonance: number): number {
  const flat = FLAT * (1 - resonance) ** 2;
  return resonance > 0.9 ? flat + (OSCILLATES_AT * (resonance - 0.9)) / 0.1 : flat;
}

/** How strongly a section with this damping is held back by its own loudness; 0 in all but the last part of the resonance. */
export function saturation(k: number): number {
  return k >= SATURATES_BELOW ? 0 : 0.02 * Math.min(1, (SATURATES_BELOW - k) / SATURATES_BELOW);
}

/** Feedback of the ladder: −0.9 (a dip) over 0 to 4.08. */
export function ladderFeedback(resonance: number): number {
  return resonance < 0 ? 0.9 * resonance : LADDER_FULL * resonance;
}

/**
 * How much higher the stages of the ladder are set so that its peak stands at the cutoff: the pole that rings lies at (k/4)^¼ of it (from the roots of
 * (1 + s)⁴ + k). Comes in between a feedback of 2 and 3, below which there is hardly a peak; from 4 on rounding holds the loop at 4.
 */
export function ladderTuning(k: number): number {
  return k <= 2 || k >= 4 ? 1 : (4 / k) ** (k < 3 ? 0.25 * (k - 2) : 0.25);
}

/** Width in octaves between the −3 dB points of a band with damping k, and back (Bristow-Johnson's cookbook). */
export function octavesOf(k: number): number {
  return (2 / Math.LN2) * Math.asinh(Math.max(0, k) / 2);
}
export function dampingOf(octaves: number): number {
  return 2 * Math.sinh((Math.LN2 / 2) * octaves);
}

/** A widened peak (or dip) by itself: amplitude A (its gain is A²) and damping of the bell that makes it. */
export function bellOf(resonance: number, widthOct: number): { amplitude: number; k: number } {
  const k = Math.max(0.02, damping(resonance));
  const gainDb = Math.min(MOST_PEAK_DB, 20 * Math.log10(FLAT / k));
  return { amplitude: 10 ** (gainDb / 40), k: dampingOf(octavesOf(Math.min(k, FLAT)) + widthOct) };
}

/** Feedback of a comb: 0 at no resonance, 1 at full, less as its peaks are widened. Below 0 it is the depth of its dips. */
export function combGain(resonance: number, widthOct: number): number {
  const r = resonance < 0 ? -resonance : resonance;
  return (1 - (1 - r) ** 2) * 2 ** (-0.5 * widthOct);
}

/** Q of the vowel filter's formants. */
export function vowelQ(resonance: number): number {
  return 8 * 4 ** resonance;
}
/** Cutoff at which the vowel filter's formants stand where they were measured, in hertz. */
export const VOWEL_AT_HZ = 800;
/** Levels of its three formants. */
export const VOWEL_LEVELS = [1, 0.63, 0.35] as const;

/**
 * Outputs of a ladder of four one-poles as weights of its input and its four stages: pole mixing, as in Välimäki and Huovilainen, Oscillator and filter
 * algorithms for virtual analog synthesis (2006).
 */
export const LADDER_MIX = {
  low: { 6: [0, 1, 0, 0, 0], 12: [0, 0, 1, 0, 0], 18: [0, 0, 0, 1, 0], 24: [0, 0, 0, 0, 1] },
  high: { 6: [1, -1, 0, 0, 0], 12: [1, -2, 1, 0, 0], 18: [1, -3, 3, -1, 0], 24: [1, -4, 6, -4, 1] },
  band: { 6: [0, 2, -2, 0, 0], 12: [0, 2, -2, 0, 0], 18: [0, 0, 4, -4, 0], 24: [0, 0, 4, -8, 4] },
  notch: { 6: [1, -2, 2, 0, 0], 12: [1, -2, 2, 0, 0], 18: [1, -2, 2, 0, 0], 24: [1, -4, 8, -8, 4] },
} as const;
