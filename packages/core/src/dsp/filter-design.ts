/** 1/Q of a second-order section without a peak. */
export const FLAT = Math.SQRT2;
/** 1/Q under which a section is held by its own loudness, so that it stays bounded as it starts to sound by itself. */
const HELD_BELOW = 0.02;
/** What 1/Q falls to at full resonance: so far below 0 that the oscillation is there within a few cycles, and what else goes through the filter hardly changes its level. */
const OSCILLATES_AT = -0.15;
/** By how much the mean square of the band damps at full resonance: the oscillation then has an amplitude of 0.5. */
const HELD_BY = 1.2;
/** Feedback of the ladder to the last of the resonance, and at full; it oscillates at 4. */
const LADDER_TO = 4.08;
const LADDER_FULL = 4.6;
/** Feedback from which the ladder is held by its own loudness instead of rounding what is fed back. */
export const LADDER_HELD_FROM = 3.9;
/** Greatest gain of a widened peak in dB. */
const MOST_PEAK_DB = 36;

/** 1/Q of a section for a resonance from −1 (a dip) over 0 (flat) to 1 (it sounds by itself): √2·(1 − r)², less near 1. */
export function damping(resonance: number): number {
  const flat = FLAT * (1 - resonance) ** 2;
  return resonance > 0.9 ? flat + (OSCILLATES_AT * (resonance - 0.9)) / 0.1 : flat;
}

/** How strongly a section with this damping is held back by its own loudness; 0 in all but the last part of the resonance. */
export function saturation(k: number): number {
  return k >= HELD_BELOW ? 0 : HELD_BY * Math.min(1, (HELD_BELOW - k) / (HELD_BELOW - OSCILLATES_AT)) ** 2;
}

/** Amplitude at which a section that sounds by itself settles: where damping and hold are even, k + hold·A²/2 = 0; 0 for one that does not. */
export function oscillation(k: number, hold: number): number {
  return k < 0 && hold > 0 ? Math.sqrt((-2 * k) / hold) : 0;
}

/** Feedback of the ladder: −0.9 (a dip) over 0 to 4.6; the last of the resonance takes it past the 4 at which it oscillates. */
export function ladderFeedback(resonance: number): number {
  if (resonance < 0) return 0.9 * resonance;
  const k = LADDER_TO * resonance;
  return k <= LADDER_HELD_FROM ? k : LADDER_HELD_FROM + ((LADDER_FULL - LADDER_HELD_FROM) * (k - LADDER_HELD_FROM)) / (LADDER_TO - LADDER_HELD_FROM);
}

/** By how much the mean square of the ladder's last stage lessens its feedback: as rounding would where it takes over, more at full. */
export function ladderHold(k: number): number {
  return 0.375 + (0.825 * Math.max(0, k - LADDER_HELD_FROM)) / (LADDER_FULL - LADDER_HELD_FROM);
}

/** Amplitude of the last stage of a ladder that sounds by itself: k/(1 + hold·A²/2) = 4. */
export function ladderOscillation(k: number): number {
  return k > 4 ? Math.sqrt((k / 4 - 1) * (2 / ladderHold(k))) : 0;
}

/** Steps of feedback for which the tuning of a ladder is tabled, and the feedback up to which it comes in: 25 % of the resonance. */
const TUNED_STEPS = 80;
const TUNED_FROM = 0.25 * LADDER_TO;
const tunings = new Map<string, Float64Array>();

/** Where the magnitude of a ladder peaks, its stages set to 1: the highest peak within two octaves of its ringing pole, which lies at (k/4)^¼ (from the roots of (1 + s)⁴ + k); null where there is none. */
function ladderPeak(mix: readonly number[], k: number): number | null {
  const power = (w: number) => {
    // Powers of a stage, 1/(1 + jw), as an angle and a length.
    const length = 1 / Math.hypot(1, w);
    const angle = -Math.atan(w);
    let re = 0;
    let im = 0;
    for (let i = 0; i < 5; i++) {
      re += mix[i] * length ** i * Math.cos(i * angle);
      im += mix[i] * length ** i * Math.sin(i * angle);
    }
    return (re * re + im * im) / ((1 + k * length ** 4 * Math.cos(4 * angle)) ** 2 + (k * length ** 4 * Math.sin(4 * angle)) ** 2);
  };
  const pole = (k / 4) ** 0.25;
  // In steps of two cents.
  const powers = Array.from({ length: 2401 }, (_, i) => power(pole * 2 ** ((2 * i - 2400) / 1200)));
  let best = -1;
  let most = 0;
  for (let i = 1; i < 2400; i++) if (powers[i] > most && powers[i] > powers[i - 1] && powers[i] > powers[i + 1]) { most = powers[i]; best = i; }
  return best < 0 ? null : pole * 2 ** ((2 * best - 2400) / 1200);
}

/** Tunings of a kind of ladder for feedbacks from 25 % of the resonance up to 4; made once. */
export function ladderTunings(mode: keyof typeof LADDER_MIX, slope: '6' | '12' | '18' | '24'): Float64Array {
  const key = `${mode} ${slope}`;
  let table = tunings.get(key);
  if (!table) {
    table = new Float64Array(TUNED_STEPS + 1).fill(1);
    // Downward from 4; a ladder that loses its peak on the way (a high-pass has none at little resonance) keeps the tuning that it had there.
    for (let i = TUNED_STEPS - 1; i >= 0; i--) {
      const peak = ladderPeak(LADDER_MIX[mode][slope], TUNED_FROM + ((4 - TUNED_FROM) * i) / TUNED_STEPS);
      table[i] = peak === null ? table[i + 1] : 1 / peak;
    }
    tunings.set(key, table);
  }
  return table;
}

/**
 * How much higher the stages of a ladder are set, by its tunings, so that its peak stands at the cutoff, from 25 % of the resonance up; under that it comes in evenly, for without resonance there is no peak, and each stage is 3 dB
 * down at the cutoff. Found on the magnitude itself. From a feedback of 4 on the loop is held at 4, and rings at its stages' own corner.
 */
export function ladderTuning(table: Float64Array, k: number): number {
  if (k <= 0 || k >= 4) return 1;
  if (k < TUNED_FROM) return table[0] ** (k / TUNED_FROM);
  const place = ((k - TUNED_FROM) * TUNED_STEPS) / (4 - TUNED_FROM);
  const i = place >= TUNED_STEPS - 1 ? TUNED_STEPS - 1 : place | 0;
  return table[i] + (place - i) * (table[i + 1] - table[i]);
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
